'use client';

import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import type { RunRow } from '@/books/imports/runs';
import { useBooks } from '../frame/books-context';
import { useToasts, type UndoAnswer } from '../frame/toasts';
import { TableHeads } from './plain-table';

/** Files brought in before, newest first, each of which can be taken back while nothing rests on it. */
export function Runs({
  runs,
  takeBack,
}: {
  runs: readonly RunRow[];
  takeBack: (books: string, run: number) => Promise<UndoAnswer>;
}) {
  const { id } = useBooks();
  const toasts = useToasts();
  const router = useRouter();
  if (runs.length === 0) return null;
  const undo = async (run: number) => {
    const answer = await takeBack(id, run);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <>
      <h2>Brought in before</h2>
      <div className="surface">
        <table className="list">
          <TableHeads
            heads={[
              'File',
              'When, by',
              { name: 'New', num: true },
              { name: 'Now in a payout', num: true },
              { name: 'Here already', num: true },
              { name: 'Refused', num: true },
              { name: 'What to do', hidden: true },
            ]}
          />
          <tbody>
            {runs.map((run) => (
              <tr key={run.id}>
                <td>{run.file}</td>
                <td>
                  {run.at.slice(0, 16).replace('T', ' ')} UTC, {run.actor}
                </td>
                <td className="num">{run.added}</td>
                <td className="num">{run.updated}</td>
                <td className="num">{run.known}</td>
                <td className="num">
                  {run.refused === 0 ? (
                    0
                  ) : (
                    <a href={`/api/books/${id}/export/refused-${run.id}`} download>
                      {run.refused}
                    </a>
                  )}
                </td>
                <td className="text-end">
                  {run.undoneAt ? (
                    <span className="soft">taken back</span>
                  ) : (
                    <Button
                      size="sm"
                      variant="plain"
                      onClick={() => void undo(run.id)}
                      aria-label={`Take back ${run.file}`}
                    >
                      Take back
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </>
  );
}
