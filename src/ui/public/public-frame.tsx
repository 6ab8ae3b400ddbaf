import type { ReactNode } from 'react';

/** The frame of pages that are seen by payers: whose they are, and nothing of the books. */
export function PublicFrame({ name, about, children }: { name: string; about?: string; children: ReactNode }) {
  return (
    <div className="public">
      <header>
        <span className="name">{name}</span>
        {about ? <span className="about">{about}</span> : null}
      </header>
      <main>{children}</main>
    </div>
  );
}

/** A public page that cannot be shown, and what to do. */
export function PublicWord({ name, title, children }: { name: string; title: string; children: ReactNode }) {
  return (
    <PublicFrame name={name}>
      <h1>{title}</h1>
      {children}
    </PublicFrame>
  );
}
