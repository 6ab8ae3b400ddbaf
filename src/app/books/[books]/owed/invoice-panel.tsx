'use client';

import type { ReactNode } from 'react';
import type { InvoiceDetail } from '@/books/invoices/detail';
import { formatDate } from '@/core/calendar';
import { subtract } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { InvoiceState } from './invoice-list';

/** One invoice beside the list: its lines, what is open, and below it its entry. */
export function InvoicePanel({ invoice, children }: { invoice: InvoiceDetail; children: ReactNode }) {
  const money = useMoney();
  return (
    <article className="panel" aria-label={`Invoice ${invoice.number}`}>
      <header>
        <div>
          <div className="small soft">
            {invoice.payer}, issued {formatDate(invoice.issued)}, due {formatDate(invoice.due)}
          </div>
          <div className="name">
            Invoice {invoice.number} <InvoiceState state={invoice.state} />
          </div>
        </div>
        <div className="figure">
          <TrailAmount of={`invoice:${invoice.id}`} amount={invoice.gross} />
        </div>
      </header>
      <section>
        <table className="entry">
          <thead>
            <tr>
              <th scope="col">Line</th>
              <th scope="col" className="num">
                Net
              </th>
              <th scope="col" className="num">
                Tax
              </th>
            </tr>
          </thead>
          <tbody>
            {invoice.lines.map((line, index) => (
              <tr key={index}>
                <td>
                  {line.description || line.item}
                  <div className="sub">
                    {line.item}, {line.taxCode}
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
                  of {money(invoice.gross)}, {money(invoice.paid)} paid
                </span>
              </td>
              <td className="num">
                <TrailAmount of={`invoice:${invoice.id}`} amount={subtract(invoice.gross, invoice.paid)} />
              </td>
            </tr>
          </tfoot>
        </table>
      </section>
      {children}
    </article>
  );
}
