'use client';

import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import type { InvoiceDetail, InvoiceMove } from '@/books/invoices/detail';
import { formatDate, plainDate } from '@/core/calendar';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Mark } from '@/ui/parts/mark';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { withdrawNow } from './actions';

const WORDS: Record<InvoiceMove['kind'], string> = {
  issued: 'issued',
  corrected: 'corrected',
  credited: 'credited',
  settled: 'paid',
  discount: 'taken off for paying early',
  'written-off': 'written off',
};
const GIVEN = { mail: 'mailed', pdf: 'PDF taken', ubl: 'UBL taken', link: 'seen by its link' } as const;

/** What moved an invoice, its versions and credit notes, and what was handed out of it. */
export function InvoiceHistory({ invoice }: { invoice: InvoiceDetail }) {
  const money = useMoney();
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const withdraw = async (note: number) => {
    const answer = await withdrawNow(id, note);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const { moves, versions, handouts, creditNotes } = invoice;
  return (
    <>
      {moves.length > 1 ? (
        <section aria-label="What moved it">
          <h2>What moved it</h2>
          <table className="entry">
            <tbody>
              {moves.map((move) => (
                <tr key={`${move.journal} ${move.kind} ${move.amount}`}>
                  <td className="text-nowrap">{formatDate(move.date)}</td>
                  <td>
                    {move.memo.startsWith('Reversal') ? `${WORDS[move.kind]}, reversed` : WORDS[move.kind]}
                    <div className="sub">{move.memo}</div>
                  </td>
                  <td className="num">
                    <TrailAmount of={`journal:${move.journal}`} amount={move.amount} />
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </section>
      ) : null}
      {versions.length > 1 ? (
        <section aria-label="Versions" className="small">
          <h2>Versions</h2>
          {versions.map((version) => (
            <div key={version.version}>
              {version.version}: {money(version.gross)}, {formatDate(plainDate(version.at.slice(0, 10)))},{' '}
              {version.actor}
              {version.why ? <span className="soft">, {version.why}</span> : null}
            </div>
          ))}
        </section>
      ) : null}
      {creditNotes.length > 0 ? (
        <section aria-label="Credit notes" className="small">
          <h2>Credit notes</h2>
          {creditNotes.map((note) => (
            <div key={note.id}>
              <a href={`/api/books/${id}/documents/credit-note/${note.id}`}>{note.number}</a>, {formatDate(note.issued)}
              , {money(note.gross)}
              {note.why ? <span className="soft">, {note.why}</span> : null}{' '}
              <a href={`/api/books/${id}/documents/credit-note/${note.id}?as=ubl`} aria-label={`${note.number} as UBL`}>
                UBL
              </a>{' '}
              {note.journal === null ? (
                <Mark kind="aside">withdrawn</Mark>
              ) : (
                <Button
                  variant="link"
                  size="sm"
                  className="p-0"
                  aria-label={`Withdraw ${note.number}`}
                  onClick={() => void withdraw(note.id)}
                >
                  Withdraw
                </Button>
              )}
            </div>
          ))}
        </section>
      ) : null}
      {handouts.length > 0 ? (
        <section aria-label="Handed out" className="small">
          <h2>Handed out</h2>
          {handouts.slice(0, 8).map((one, index) => (
            <div key={index}>
              {formatDate(plainDate(one.at.slice(0, 10)))}: {GIVEN[one.how]}
              {one.to ? ` to ${one.to}` : ''}, version {one.version}{' '}
              {one.changedSince ? <Mark kind="look">{`changed since, it said ${money(one.gross)}`}</Mark> : null}
            </div>
          ))}
        </section>
      ) : null}
    </>
  );
}
