'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import type { DraftRow } from '@/books/channels/list';
import { useBooks } from '@/ui/frame/books-context';
import { dropDraftNow } from '../../actions';

/** Channels that somebody began to open and left. */
export function DraftList({ drafts }: { drafts: readonly DraftRow[] }) {
  const { id } = useBooks();
  const router = useRouter();
  if (drafts.length === 0) return null;
  return (
    <section className="box" aria-label="Begun and not opened">
      <h2>Begun and not opened</h2>
      <table className="list">
        <tbody>
          {drafts.map((draft) => (
            <tr key={draft.id}>
              <td>{draft.settings.name || 'no name yet'}</td>
              <td className="soft">
                {draft.changedAt.slice(0, 16).replace('T', ' ')} UTC, {draft.actor}
              </td>
              <td className="num">
                <Link className="me-3" href={`/books/${id}/set-up/channels/open?draft=${draft.id}`}>
                  Go on
                </Link>
                <Button
                  variant="link"
                  size="sm"
                  className="p-0"
                  onClick={() => void dropDraftNow(id, { id: draft.id }).then(() => router.refresh())}
                >
                  Give up
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
