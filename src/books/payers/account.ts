import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

/** One line of a statement of account. Minor units; what is owed is positive. */
export interface AccountLine {
  readonly date: PlainDate;
  readonly what: string;
  readonly document: string;
  readonly amount: Minor;
  readonly balance: Minor;
}

export interface StatementOfAccount {
  readonly from: PlainDate;
  readonly to: PlainDate;
  readonly opening: Minor;
  readonly lines: readonly AccountLine[];
  readonly closing: Minor;
}

const WHAT = sql`CASE e.kind WHEN 'issued' THEN 'Invoice' WHEN 'corrected' THEN 'Correction' WHEN 'credited' THEN 'Credit note'
  WHEN 'settled' THEN 'Payment' WHEN 'discount' THEN 'Discount for paying early' ELSE 'Written off' END`;

/** All that moved a payer's account in a span of days: invoices and what settled them, and what is kept for them. */
const moves = (payer: number) => sql`
  SELECT e.book_date AS date, CASE WHEN j.reverses_id IS NULL THEN ${WHAT} ELSE ${WHAT} || ' reversed' END AS what,
    i.number AS document, e.amount, e.id AS no, 0 AS part
  FROM invoice i JOIN invoice_entry e ON e.invoice_id = i.id JOIN journal j ON j.id = e.journal_id WHERE i.payer_id = ${payer}
  UNION ALL
  SELECT c.book_date, CASE WHEN c.amount > 0 THEN 'Kept for you' ELSE 'Kept, now used or paid back' END,
    coalesce(r.external_id, n.number, l.text, ''), -c.amount, c.id, 1
  FROM credit_entry c LEFT JOIN receipt r ON r.id = c.receipt_id
  LEFT JOIN credit_note n ON n.id = c.credit_note_id LEFT JOIN invoice v ON v.id = n.invoice_id
  LEFT JOIN statement_line l ON l.id = c.statement_line_id LEFT JOIN payer y ON y.id = c.payer_id
  WHERE coalesce(r.payer_id, v.payer_id, y.merged_into, y.id) = ${payer}`;

/** A payer's account from one day to another, both included. */
export async function statementOfAccount(
  db: Reading,
  payer: number,
  from: PlainDate,
  to: PlainDate,
): Promise<StatementOfAccount> {
  const { rows: before } = await sql<{ opening: Minor | null }>`
    SELECT sum(amount) AS opening FROM (${moves(payer)}) WHERE date < ${from}
  `.execute(db);
  const opening = before[0]!.opening ?? (0 as Minor);
  const { rows } = await sql<Omit<AccountLine, 'balance'>>`
    SELECT date, what, document, amount FROM (${moves(payer)}) WHERE date BETWEEN ${from} AND ${to}
    ORDER BY date, part, no LIMIT 5000
  `.execute(db);
  let balance: number = opening;
  const lines = rows.map((row) => ({ ...row, balance: (balance += row.amount) as Minor }));
  return { from, to, opening, lines, closing: balance as Minor };
}
