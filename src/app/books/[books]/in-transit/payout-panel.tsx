'use client';

import { plural } from '@/core/words';
import Link from 'next/link';
import type { EntryLineView } from '@/books/ledger/entry-view';
import type { PayoutDetail } from '@/books/payouts/list';
import { formatDate, formatDay, formatLongDate, type PlainDate } from '@/core/calendar';
import { subtract, ZERO } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { EntryTable } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { PayoutState } from './payout-list';
import { TableHeads } from '@/ui/parts/plain-table';

/** One payout with what is in it, when it should arrive, and the entry it writes at the bank. */
export function PayoutPanel({
  payout,
  today,
  entry,
}: {
  payout: PayoutDetail;
  today: PlainDate;
  entry: readonly EntryLineView[];
}) {
  const { id } = useBooks();
  const money = useMoney();
  const { contents, receipts, gross, fee, net, difference } = payout;
  return (
    <article className="panel" aria-label={`Payout ${payout.name}`}>
      <header>
        <div>
          <div className="small soft">
            {payout.channel}, left {formatDate(payout.date)}
          </div>
          <div className="name">
            Payout {payout.name} <PayoutState payout={payout} today={today} />
          </div>
        </div>
        <div className="figure">
          <TrailAmount of={`payout:${payout.id}`} amount={net} />
        </div>
      </header>
      <section>
        {payout.banked === null ? (
          <>
            Expected at the bank on {formatLongDate(payout.expected)}.
            {payout.doubledAt !== null ? (
              <>
                {' '}
                A <Link href={`/books/${id}/banked?state=doubled&line=${payout.doubledAt}`}>statement line</Link> that
                it explains is booked as income: it may count twice.
              </>
            ) : payout.seen ? (
              <>
                {' '}
                A statement line waits to be confirmed with it: <Link href={`/books/${id}/banked`}>Banked</Link>.
              </>
            ) : null}
          </>
        ) : (
          <>
            At the bank since {formatDate(payout.banked)}:{' '}
            <Link href={`/books/${id}/banked?state=all&line=${payout.line}`}>statement line</Link>.
          </>
        )}
        {difference !== 0 ? (
          <div className="mt-2">
            <Notice kind="waits">
              Its receipts come to {money(subtract(gross, fee))}, {money(difference)} away from its net.{' '}
              {receipts === 0
                ? 'None of them is here: bring in the export that has them.'
                : 'A receipt is missing, or its fee is not stated.'}
            </Notice>
          </div>
        ) : null}
      </section>
      <section className="flush">
        <table className="list">
          <TableHeads
            heads={[
              'Date',
              'Receipt',
              { name: 'Gross', num: true },
              { name: 'Fee', num: true },
              { name: 'Net', num: true },
            ]}
          />
          <tbody>
            {contents.map((receipt) => (
              <tr key={receipt.id}>
                <td className="text-nowrap">{formatDay(receipt.date)}</td>
                <td className="wide">
                  <Link href={`/books/${id}/collected?receipt=${receipt.id}`}>{receipt.name}</Link>{' '}
                  {receipt.payer ?? 'no name'}
                  <div className="sub">
                    {receipt.about}
                    {receipt.journal === null ? <span className="due">, not posted yet</span> : null}
                  </div>
                </td>
                <td className="num">
                  <TrailAmount of={`receipt:${receipt.id}`} amount={receipt.gross} />
                </td>
                <td className="num">
                  {receipt.fee === null ? (
                    <span className="soft">not stated</span>
                  ) : (
                    <TrailAmount of={`receipt:${receipt.id}`} amount={receipt.fee} />
                  )}
                </td>
                <td className="num">
                  <TrailAmount of={`receipt:${receipt.id}`} amount={subtract(receipt.gross, receipt.fee ?? ZERO)} />
                </td>
              </tr>
            ))}
            <tr className="totals">
              <td colSpan={2}>
                {plural(receipts, 'receipt')}
                {receipts > contents.length ? `, the first ${contents.length} listed` : ''}
              </td>
              <td className="num">{money(gross)}</td>
              <td className="num">{money(fee)}</td>
              <td className="num">{money(subtract(gross, fee))}</td>
            </tr>
          </tbody>
        </table>
      </section>
      <section aria-label="Entry at the bank">
        <h2>{payout.banked === null ? 'Entry it will write at the bank' : 'Entry it wrote at the bank'}</h2>
        <EntryTable lines={entry} of={`payout:${payout.id}`} />
      </section>
    </article>
  );
}
