import type { DraftRow } from '@/books/billing/drafts';
import { plural } from '@/core/words';
import { DraftLink } from './draft-link';

/** Invoices that are being written, above those that are issued. */
export function DraftList({ drafts }: { drafts: readonly DraftRow[] }) {
  return (
    <details className="surface drafts" open={drafts.length <= 3}>
      <summary>{plural(drafts.length, 'draft')} not issued yet</summary>
      <ul>
        {drafts.map((draft) => (
          <li key={draft.id}>
            <DraftLink draft={draft} />
          </li>
        ))}
      </ul>
    </details>
  );
}
