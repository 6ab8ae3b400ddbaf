import { sql, type SelectQueryBuilder } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { plainDateInput } from '../command/plain-date-input';
import { containing } from '../receipts/filter';
import type { BooksSchema } from '../store';

/** What of the invoices is shown, posted or exported. */
export const invoiceFilter = z.object({
  state: z.enum(['not-posted', 'open', 'overdue', 'paid', 'void']).optional(),
  from: plainDateInput.optional(),
  to: plainDateInput.optional(),
  /** Any part of a number or a payer's name. */
  text: z.string().trim().min(1).max(100).optional(),
});
export type InvoiceFilter = z.infer<typeof invoiceFilter>;

/** Narrows a query on `invoice` joined with its `payer`. Overdue is as of `today`. */
export function filterInvoices<O>(
  query: SelectQueryBuilder<BooksSchema, 'invoice' | 'payer', O>,
  filter: InvoiceFilter,
  today: PlainDate,
): SelectQueryBuilder<BooksSchema, 'invoice' | 'payer', O> {
  let q = query;
  switch (filter.state) {
    case 'not-posted':
      q = q.where('invoice.journal_id', 'is', null);
      break;
    case 'open':
      q = q.where('invoice.journal_id', 'is not', null).where(sql<boolean>`invoice.paid < invoice.gross`);
      break;
    case 'overdue':
      q = q
        .where('invoice.journal_id', 'is not', null)
        .where(sql<boolean>`invoice.paid < invoice.gross`)
        // The plus keeps the list in its order (index invoice_open_issued) instead of sorting what is overdue.
        .where(sql<boolean>`+invoice.due < ${today}`);
      break;
    case 'paid':
      q = q
        .where('invoice.journal_id', 'is not', null)
        .where(sql<boolean>`invoice.paid >= invoice.gross AND invoice.credited < invoice.gross`);
      break;
    case 'void':
      q = q.where('invoice.journal_id', 'is not', null).where(sql<boolean>`invoice.credited >= invoice.gross`);
      break;
  }
  if (filter.from) q = q.where('invoice.issued', '>=', filter.from);
  if (filter.to) q = q.where('invoice.issued', '<=', filter.to);
  if (filter.text) {
    const like = containing(filter.text);
    q = q.where(sql<boolean>`(invoice.number LIKE ${like} ESCAPE '\\' OR payer.name LIKE ${like} ESCAPE '\\')`);
  }
  return q;
}
