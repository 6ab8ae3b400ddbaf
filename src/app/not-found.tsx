import Link from 'next/link';

export default function NotFound() {
  return (
    <main className="container py-5">
      <h1>There is nothing at this address</h1>
      <p>
        It may have been taken out since. <Link href="/">Go to the books</Link>
      </p>
    </main>
  );
}
