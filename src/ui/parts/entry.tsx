'use client';

import Link from 'next/link';
import type { EntryLineView, EntryView } from '@/books/ledger/entry-view';
import type { BalanceMove } from '@/books/ledger/balances';
import { formatDate } from '@/core/calendar';
import { sum, type Minor } from '@/core/money';
import { useBooks, useMoney } from '../frame/books-context';

/** The lines of an entry, debit and credit, each with why it stands there. */
export function EntryTable({ lines }: { lines: readonly EntryLineView[] }) {
  const money = useMoney();
  const { id } = useBooks();
  const debits = sum(lines.filter((line) => line.amount > 0).map((line) => line.amount));
  return (
    <table className="entry">
      <thead>
        <tr>
          <th scope="col">Account, because</th>
          <th scope="col" className="num">
            Debit
          </th>
          <th scope="col" className="num">
            Credit
          </th>
        </tr>
      </thead>
      <tbody>
        {lines.map((line, index) => (
          <tr key={index}>
            <td>
              <Link href={`/books/${id}/accounts/${line.account}`}>
                {line.code} {line.name}
              </Link>
              <div className="sub">{line.because}</div>
            </td>
            <td className="num">{line.amount > 0 ? money(line.amount) : ''}</td>
            <td className="num">{line.amount < 0 ? money(-line.amount as Minor) : ''}</td>
          </tr>
        ))}
      </tbody>
      <tfoot>
        <tr>
          <td>Total</td>
          <td className="num">{money(debits)}</td>
          <td className="num">{money(debits)}</td>
        </tr>
      </tfoot>
    </table>
  );
}

/** The balances that an entry moves: before and after. A credit balance is written with a minus. */
export function BalanceMoves({ moves }: { moves: readonly BalanceMove[] }) {
  const money = useMoney();
  return (
    <div className="moves" role="table" aria-label="Balances before and after">
      {moves.map((move) => (
        <div key={move.account} role="row" style={{ display: 'contents' }}>
          <span role="rowheader">
            {move.code} {move.name}
          </span>
          <span role="cell" className="num soft">
            {money(move.before)}
          </span>
          <span aria-hidden="true" className="soft">
            →
          </span>
          <span role="cell" className="num">
            {money(move.after)}
          </span>
        </div>
      ))}
    </div>
  );
}

/** The entry about to be written, and the balances it moves. */
export function EntryPreview({ entry, title }: { entry: EntryView; title: string }) {
  return (
    <>
      <section aria-label={title}>
        <h2>
          {title} <span className="small soft fw-normal">{formatDate(entry.date)}</span>
        </h2>
        <EntryTable lines={entry.lines} />
      </section>
      <section aria-label="Balances it moves">
        <h2>Balances it moves</h2>
        <BalanceMoves moves={entry.moves} />
      </section>
    </>
  );
}
