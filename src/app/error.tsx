'use client';

import Button from 'react-bootstrap/Button';

export default function PageError({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="container py-5" role="alert">
      <h1>This page could not be made</h1>
      <p>The books are unharmed: a page only reads them. The server’s log says what went wrong.</p>
      <Button onClick={reset}>Try again</Button>
    </main>
  );
}
