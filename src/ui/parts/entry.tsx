'use client';

import Link from 'next/link';
import type { EntryLineView, EntryView } from '@/books/ledger/entry-view';
import type { BalanceMove } from '@/books/ledger/balances';
import { formatDate } from '@/core/calendar';
import type { TrailRef } from '@/books/trail/ref';
import { negate, sum, type Minor } from '@/core/money';
import { useBooks, useMoney } from '../frame/books-context';
import { TrailAmount } from './trail-amount';
import { TableHeads } from './plain-table';

/** The lines of an entry, debit and credit, each with why it stands there. The amounts lead along the trail it is part of; none does in a dialog. */
export function EntryTable({ lines, of }: { lines: readonly EntryLineView[]; of: TrailRef | null }) {
  const money = useMoney();
  const { id } = useBooks();
  const amountOf = (amount: Minor) => (of === null ? money(amount) : <TrailAmount of={of} amount={amount} />);
  const debits = sum(lines.filter((line) => line.amount > 0).map((line) => line.amount));
  return (
    <table className="entry">
      <TableHeads heads={['Account, because', { name: 'Debit', num: true }, { name: 'Credit', num: true }]} />
      <tbody>
        {lines.map((line, index) => (
          <tr key={index}>
            <td>
              <Link href={`/books/${id}/accounts/${line.account}`}>
                {line.code} {line.name}
              </Link>
              <div className="sub">
                {line.because}
                {line.foreign ? `, ${money(line.foreign.amount, line.foreign.currency)}` : ''}
              </div>
            </td>
            <td className="num">{line.amount > 0 ? amountOf(line.amount) : ''}</td>
            <td className="num">{line.amount < 0 ? amountOf(negate(line.amount)) : ''}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td>Total</td>
          <td className="num">{amountOf(debits)}</td>
          <td className="num">{amountOf(debits)}</td>
        </tr>
      </tfoot>
    </table>
  );
}

/** The balances that an entry moves: before and after, each leading to its register. A credit balance has a minus. */
export function BalanceMoves({ moves }: { moves: readonly BalanceMove[] }) {
  const money = useMoney();
  const { id } = useBooks();
  return (
    <div className="moves" role="table" aria-label="Balances before and after">
      {moves.map((move) => (
        <div key={move.account} role="row" style={{ display: 'contents' }}>
          <Link role="rowheader" href={`/books/${id}/accounts/${move.account}`}>
            {move.code} {move.name}
          </Link>
          <span role="cell" className="num soft">
            {money(move.before)}
          </span>
          <span aria-hidden="true" className="soft">
            →
          </span>
          <span role="cell" className="num">
            <Link href={`/books/${id}/accounts/${move.account}`}>{money(move.after)}</Link>
          </span>
        </div>
      ))}
    </div>
  );
}

/** The entry about to be written, and the balances it moves. */
export function EntryPreview({ entry, title, of }: { entry: EntryView; title: string; of: TrailRef | null }) {
  return (
    <>
      <section aria-label={title}>
        <h2>
          {title} <span className="small soft fw-normal">{formatDate(entry.date)}</span>
        </h2>
        <EntryTable lines={entry.lines} of={of} />
      </section>
      <section aria-label="Balances it moves">
        <h2>Balances it moves</h2>
        <BalanceMoves moves={entry.moves} />
      </section>
    </>
  );
}
