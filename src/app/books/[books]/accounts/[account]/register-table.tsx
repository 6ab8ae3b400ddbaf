'use client';

import type { Register } from '@/books/ledger/register';
import { formatDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { ListFoot } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { TableHeads } from '@/ui/parts/plain-table';

/** The lines of an account, newest first, with the balance after each. */
export function RegisterTable({ register }: { register: Register }) {
  const money = useMoney();
  const { account, rows, count, next } = register;
  if (rows.length === 0) {
    return (
      <Empty title="Nothing is posted here yet">
        <p>Lines appear as invoices, receipts and matches are posted to this account.</p>
      </Empty>
    );
  }
  return (
    <div className="surface">
      <table className="list" aria-label={`Register of ${account.code} ${account.name}`}>
        <TableHeads
          heads={[
            { name: 'Date', width: 96 },
            { name: 'Journal', width: 70 },
            'What, because',
            { name: 'Debit', num: true },
            { name: 'Credit', num: true },
            { name: 'Balance', num: true },
          ]}
        />
        <tbody>
          <tr className="totals">
            <td colSpan={3}>{count} lines</td>
            <td className="num">{money(account.debit)}</td>
            <td className="num">{money(account.credit)}</td>
            <td className="num">{money(account.balance)}</td>
          </tr>
          {rows.map((row) => (
            <tr key={`${row.journal}/${row.lineNo}`}>
              <td className="text-nowrap">{formatDate(row.date)}</td>
              <td className="soft">{row.journal}</td>
              <td className="wide">
                {row.memo}
                {row.reversedBy === null ? null : (
                  <span className="soft"> (✕ reversed by journal {row.reversedBy})</span>
                )}
                <span className="sub fst-italic"> · {row.because}</span>
              </td>
              <td className="num">{row.amount > 0 ? <Amount row={row} amount={row.amount} /> : ''}</td>
              <td className="num">{row.amount < 0 ? <Amount row={row} amount={-row.amount as Minor} /> : ''}</td>
              <td className="num">{money(row.running)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <ListFoot shown={rows.length} total={count} next={next} list={`register-${account.id}`} />
    </div>
  );
}

function Amount({ row, amount }: { row: Register['rows'][number]; amount: Minor }) {
  const money = useMoney();
  // Opening balances come from before these books: there is nothing to follow.
  return row.source === 'opening' ? (
    <>{money(amount)}</>
  ) : (
    <TrailAmount of={`journal:${row.journal}`} amount={amount} />
  );
}
