'use client';

import Link from 'next/link';
import type { ReactNode } from 'react';
import type { InvoiceDetail } from '@/books/invoices/detail';
import { formatDate } from '@/core/calendar';
import { formatPercent, formatUnits, subtract } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { Attachments } from '@/ui/parts/attachments';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { setAttachmentNow } from './actions';
import { InvoiceActs } from './invoice-acts';
import { InvoiceHistory } from './invoice-history';
import { InvoiceState } from './invoice-list';
import { TableHeads } from '@/ui/parts/plain-table';

type Line = InvoiceDetail['lines'][number];

/** How a line comes to its net, where that is more than one of something. */
function reckoning({ quantity, price, discount }: Line, money: ReturnType<typeof useMoney>): string {
  const times = quantity === 1000 ? '' : `${formatUnits(quantity)} × ${money(price)}`;
  const off = discount === 0 ? '' : `${formatPercent(discount)} off`;
  return [times, off].filter(Boolean).join(', ');
}

/** One invoice beside the list: its lines, what is open, what was done with it, and below it its entry. */
export function InvoicePanel({ invoice, children }: { invoice: InvoiceDetail; children: ReactNode }) {
  const money = useMoney();
  const { id } = useBooks();
  const { early } = invoice;
  return (
    <article className="panel" aria-label={`Invoice ${invoice.number}`}>
      <header>
        <div>
          <div className="small soft">
            <Link href={`/books/${id}/owed/payers/${invoice.payerId}`}>{invoice.payer}</Link>, issued{' '}
            {formatDate(invoice.issued)}, due {formatDate(invoice.due)}
          </div>
          <div className="name">
            Invoice {invoice.number} <InvoiceState state={invoice.state} />
          </div>
          {early ? (
            <div className="small">
              {money(early.discount)} off if paid by {formatDate(early.until)}
            </div>
          ) : null}
        </div>
        <div className="figure">
          <TrailAmount of={`invoice:${invoice.id}`} amount={invoice.gross} />
        </div>
      </header>
      {invoice.journal !== null ? <InvoiceActs invoice={invoice} /> : null}
      <section>
        <table className="entry">
          <TableHeads heads={['Line', { name: 'Net', num: true }, { name: 'Tax', num: true }]} />
          <tbody>
            {invoice.lines.map((line, index) => (
              <tr key={index}>
                <td>
                  {line.description || line.itemCode}
                  <div className="sub">
                    {[reckoning(line, money), line.itemCode, line.taxName].filter(Boolean).join(', ')}
                  </div>
                </td>
                <td className="num">{money(line.net)}</td>
                <td className="num">{money(line.tax)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr>
              <td>Total</td>
              <td className="num">{money(invoice.net)}</td>
              <td className="num">{money(invoice.tax)}</td>
            </tr>
            <tr>
              <td colSpan={2}>
                Open{' '}
                <span className="soft fw-normal">
                  of {money(invoice.gross)}, {money(invoice.paid)} settled
                </span>
              </td>
              <td className="num">
                <TrailAmount of={`invoice:${invoice.id}`} amount={subtract(invoice.gross, invoice.paid)} />
              </td>
            </tr>
          </tfoot>
        </table>
        {invoice.note ? <p className="small mb-0 pre-line">{invoice.note}</p> : null}
        {invoice.privateNote ? <p className="small soft mb-0 pre-line">For us: {invoice.privateNote}</p> : null}
      </section>
      <InvoiceHistory invoice={invoice} />
      <Attachments subject="invoice" id={invoice.id} list={invoice.attachments} takeOff={setAttachmentNow} />
      {children}
    </article>
  );
}
