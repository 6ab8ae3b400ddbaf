'use client';

import Link from 'next/link';
import type { ReactNode } from 'react';
import type { ReceiptDetail } from '@/books/receipts/detail';
import { formatDate } from '@/core/calendar';
import { movementWord } from '@/core/channels';
import { formatUnits, subtract, type Minor } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { plural } from '@/core/words';
import { Notice } from '@/ui/parts/notice';
import { ReceiptState } from './receipt-state';
import { WhoPaid } from './who-paid';
import { TrailAmount } from '@/ui/parts/trail-amount';

/** One receipt beside the list: what the channel says of it, and below it its entry. */
export function ReceiptPanel({ receipt, children }: { receipt: ReceiptDetail; children: ReactNode }) {
  const inBooks = useMoney();
  const money = (amount: Minor) => inBooks(amount, receipt.currency);
  const { id } = useBooks();
  const { gross, fee, tip, document, invoice } = receipt;
  const kind = movementWord(receipt.kind, receipt.channelKind === 'debit-bureau');
  return (
    <article className="panel" aria-label={`${kind} ${receipt.name}`}>
      <header>
        <div>
          <div className="small soft">
            {formatDate(receipt.date)}, {receipt.at.slice(11, 19)} UTC
          </div>
          <div className="name">
            {kind} {receipt.name}
          </div>
        </div>
        <div className="figure">
          <TrailAmount of={`receipt:${receipt.id}`} amount={gross} currency={receipt.currency} />
        </div>
      </header>
      <section>
        <dl className="facts">
          <dt>Channel</dt>
          <dd>
            {receipt.site ?? receipt.channel}
            {receipt.method ? <span className="soft">, {receipt.method}</span> : null}
            {receipt.site !== null ? (
              <>
                {', '}
                <Link href={`/books/${id}/collected/day?channel=${receipt.channelId}&date=${receipt.date}`}>
                  the whole day
                </Link>
              </>
            ) : null}
          </dd>
          <dt>Payer</dt>
          <dd>
            {receipt.payer ?? 'no name'} {receipt.email ? <span className="soft">{receipt.email}</span> : null}
          </dd>
          <dt>For</dt>
          <dd>
            {document === '' && receipt.takesBack !== '' ? (
              `takes back ${receipt.takesBack}`
            ) : document === '' ? (
              receipt.lines.length > 0 ? (
                plural(receipt.lines.length, 'thing')
              ) : (
                (receipt.item ?? (receipt.fund ? `fund ${receipt.fund}` : 'a paid sale'))
              )
            ) : invoice === null ? (
              document
            ) : (
              <Link href={`/books/${id}/owed?invoice=${invoice}`}>invoice {document}</Link>
            )}
            {receipt.note ? <span className="soft"> “{receipt.note}”</span> : null}
          </dd>
          <dt>Fee, net</dt>
          <dd>
            {fee === null ? 'not stated' : `${money(fee)}, ${money(subtract(gross, fee))}`}
            {tip !== 0 ? `, tip ${money(tip)}` : ''}
          </dd>
          <dt>Payout</dt>
          <dd>
            {receipt.payoutId === null ? (
              receipt.payout || 'not in one yet'
            ) : (
              <Link href={`/books/${id}/in-transit?payout=${receipt.payoutId}`}>{receipt.payout}</Link>
            )}
          </dd>
        </dl>
        {receipt.lines.length + receipt.tenders.length > 0 ? (
          <table className="list mt-2" aria-label="What it was for, and how it was paid">
            <tbody>
              {receipt.lines.map((line, index) => (
                <tr key={index}>
                  <td>
                    {formatUnits(line.units)} × {line.what || 'sale'}
                    {line.discount === 0 ? null : <span className="soft">, {money(line.discount)} off</span>}
                  </td>
                  <td className="num">{money(line.gross)}</td>
                </tr>
              ))}
              {receipt.tenders.map(({ tender, amount }) => (
                <tr key={tender}>
                  <td className="soft">paid by {tender}</td>
                  <td className="num soft">{money(amount)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        ) : null}
        {document !== '' && invoice === null && receipt.kind === 'receipt' ? (
          <div className="mt-2">
            <Notice kind="waits">
              These books have no invoice {document}: the money is kept as the payer’s credit. Bring the invoice in,
              then reverse and post again.
            </Notice>
          </div>
        ) : null}
      </section>
      {receipt.payer === null ? <WhoPaid receipt={receipt.id} note={receipt.note} /> : null}
      <ReceiptState receipt={receipt} />
      {children}
    </article>
  );
}
