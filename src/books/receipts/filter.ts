import { sql, type SelectQueryBuilder } from 'kysely';
import { z } from 'zod';
import { plainDateInput } from '../command/plain-date-input';
import type { BooksSchema } from '../store';

/** What of the receipts is shown, posted or exported: the same words in an address, a list and a command. */
export const receiptFilter = z.object({
  /**
   * not-posted, posted: in the ledger or not; in-transit: posted, not at the bank yet; banked: explained there; aside:
   * not wanted in the books; changed: posted, and other at the source since.
   */
  state: z.enum(['not-posted', 'posted', 'in-transit', 'banked', 'aside', 'changed']).optional(),
  channel: z.coerce.number().int().optional(),
  kind: z.enum(['receipt', 'refund', 'chargeback']).optional(),
  from: plainDateInput.optional(),
  to: plainDateInput.optional(),
  /** Any part of a payer's name, a document, an id or a note. */
  text: z.string().trim().min(1).max(100).optional(),
});
export type ReceiptFilter = z.infer<typeof receiptFilter>;

/** A text to look for anywhere, with LIKE's own signs taken literally (ESCAPE '\'). */
export function containing(text: string): string {
  return `%${text.replace(/[\\%_]/g, (sign) => `\\${sign}`)}%`;
}

/** Narrows a query on `receipt` left-joined with its `payout` and `payer`. */
export function filterReceipts<O>(
  query: SelectQueryBuilder<BooksSchema, 'receipt' | 'payout' | 'payer', O>,
  filter: ReceiptFilter,
): SelectQueryBuilder<BooksSchema, 'receipt' | 'payout' | 'payer', O> {
  let q = query;
  switch (filter.state) {
    case 'not-posted':
      q = q.where('receipt.journal_id', 'is', null).where('receipt.aside', 'is', null);
      break;
    case 'aside':
      q = q.where('receipt.aside', 'is not', null);
      break;
    case 'changed':
      q = q.where(sql<boolean>`receipt.id IN (SELECT receipt_id FROM receipt_change)`);
      break;
    case 'posted':
      q = q.where('receipt.journal_id', 'is not', null);
      break;
    case 'in-transit':
      q = q
        .where('receipt.journal_id', 'is not', null)
        .where('receipt.match_id', 'is', null)
        .whereRef('receipt.not_held', '<>', 'receipt.gross')
        .where('payout.match_id', 'is', null);
      break;
    case 'banked':
      q = q.where((e) => e.or([e('receipt.match_id', 'is not', null), e('payout.match_id', 'is not', null)]));
      break;
  }
  if (filter.channel) q = q.where('receipt.channel_id', '=', filter.channel);
  if (filter.kind) q = q.where('receipt.kind', '=', filter.kind);
  if (filter.from) q = q.where('receipt.book_date', '>=', filter.from);
  if (filter.to) q = q.where('receipt.book_date', '<=', filter.to);
  if (filter.text) {
    const like = containing(filter.text);
    q = q.where(sql<boolean>`(
      receipt.document LIKE ${like} ESCAPE '\\' OR receipt.external_id LIKE ${like} ESCAPE '\\'
      OR receipt.note LIKE ${like} ESCAPE '\\' OR payer.name LIKE ${like} ESCAPE '\\')`);
  }
  return q;
}
