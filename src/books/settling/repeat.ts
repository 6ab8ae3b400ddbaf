import { sql, type RawBuilder } from 'kysely';
import type { Reading } from '../store';

/**
 * Gives journals the movements of invoices and credits that other journals had: the opposite of them, or the same again.
 * @param pairs a subquery `t` with `journal`, the new one, and `was`, the one that it follows.
 */
export async function repeatEntries(db: Reading, pairs: RawBuilder<unknown>, sign: 1 | -1 = 1): Promise<void> {
  const s = sql.lit(sign);
  await sql`
    UPDATE invoice SET paid = paid - x.amount FROM (
      SELECT e.invoice_id, ${s} * sum(e.amount) AS amount FROM ${pairs} JOIN invoice_entry e ON e.journal_id = t.was
      WHERE e.kind NOT IN ('issued', 'corrected') GROUP BY e.invoice_id) AS x
    WHERE invoice.id = x.invoice_id
  `.execute(db);
  await sql`
    INSERT INTO invoice_entry (invoice_id, journal_id, book_date, amount, kind)
    SELECT e.invoice_id, t.journal, j.book_date, ${s} * e.amount, e.kind
    FROM ${pairs} JOIN invoice_entry e ON e.journal_id = t.was JOIN journal j ON j.id = t.journal ORDER BY e.id
  `.execute(db);
  await sql`
    INSERT INTO credit_entry (receipt_id, credit_note_id, statement_line_id, payer_id, journal_id, book_date, amount)
    SELECT c.receipt_id, c.credit_note_id, c.statement_line_id, c.payer_id, t.journal, j.book_date, ${s} * c.amount
    FROM ${pairs} JOIN credit_entry c ON c.journal_id = t.was JOIN journal j ON j.id = t.journal ORDER BY c.id
  `.execute(db);
}
