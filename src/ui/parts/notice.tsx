import type { ReactNode } from 'react';

/** Something the user should read where it belongs: a refusal, or what waits. */
export function Notice({ kind, children }: { kind: 'refused' | 'waits' | 'info'; children: ReactNode }) {
  return (
    <div className={`notice ${kind}`} role={kind === 'refused' ? 'alert' : 'status'}>
      {children}
    </div>
  );
}

/** What would be here, and the one next step. */
export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="surface empty">
      <h2>{title}</h2>
      {children}
    </div>
  );
}
