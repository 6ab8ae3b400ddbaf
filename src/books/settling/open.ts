import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import type { OpenInvoice } from '@/core/receivables';
import { earlyPayments } from './early';
import type { Reading } from '../store';
import type { CreditSource } from './owed-entries';

/** What is kept for a payer, where it came from and what of it is left. Minor units. */
export interface CreditView {
  readonly source: CreditSource;
  readonly name: string;
  readonly date: PlainDate;
  readonly note: string;
  readonly left: Minor;
  /** The receipt's own id and the channel it came through; null for a credit note or a deposit. */
  readonly came: { readonly reference: string; readonly channel: number } | null;
}

export interface OpenInvoiceView extends OpenInvoice {
  readonly gross: Minor;
  /** What may be taken off on the day of the newest money; 0 where nothing. */
  readonly discount: Minor;
  readonly discountUntil: PlainDate | null;
}

/** Credit of a payer with something left, oldest first. */
export async function creditsOf(db: Reading, payer: number): Promise<CreditView[]> {
  const { rows } = await sql<
    Omit<CreditView, 'source' | 'came'> & {
      receipt: number | null;
      noteId: number | null;
      line: number | null;
      reference: string;
      channel: number;
    }
  >`
    SELECT r.id AS receipt, NULL AS noteId, NULL AS line, 'Receipt ' || r.external_id AS name, r.book_date AS date,
      coalesce(nullif(r.document, ''), r.note) AS note, sum(c.amount) AS left, r.external_id AS reference, r.channel_id AS channel
    FROM receipt r JOIN credit_entry c ON c.receipt_id = r.id WHERE r.payer_id = ${payer}
    GROUP BY r.id HAVING sum(c.amount) > 0
    UNION ALL
    SELECT NULL, n.id, NULL, 'Credit note ' || n.number, n.issued, 'for invoice ' || i.number, sum(c.amount), '', 0
    FROM invoice i JOIN credit_note n ON n.invoice_id = i.id JOIN credit_entry c ON c.credit_note_id = n.id
    WHERE i.payer_id = ${payer} GROUP BY n.id HAVING sum(c.amount) > 0
    UNION ALL
    SELECT NULL, NULL, l.id, 'Deposit', l.book_date, l.text, sum(c.amount), '', 0
    FROM credit_entry c JOIN payer y ON y.id = c.payer_id JOIN statement_line l ON l.id = c.statement_line_id
    WHERE coalesce(y.merged_into, y.id) = ${payer} GROUP BY l.id HAVING sum(c.amount) > 0
    ORDER BY 5, 4
  `.execute(db);
  return rows.map(({ receipt, noteId, line, reference, channel, ...row }) => ({
    ...row,
    source: receipt !== null ? { receipt } : line !== null ? { line, payer } : { note: noteId! },
    came: receipt === null ? null : { reference, channel },
  }));
}

/** Invoices of a payer that are open, those due longest first. */
export async function openInvoicesOf(db: Reading, payer: number, paidOn: PlainDate): Promise<OpenInvoiceView[]> {
  const { rows } = await sql<Omit<OpenInvoiceView, 'discount'>>`
    SELECT id, number, issued, due, gross, gross - paid AS open, discount_until AS discountUntil FROM invoice
    WHERE payer_id = ${payer} AND journal_id IS NOT NULL AND paid < gross ORDER BY due, issued, id LIMIT 500
  `.execute(db);
  const early = await earlyPayments(
    db,
    rows.map(({ id }) => id),
  );
  return rows.map((row) => ({ ...row, discount: early.get(row.id)?.asked(row.open, paidOn).discount ?? (0 as Minor) }));
}
