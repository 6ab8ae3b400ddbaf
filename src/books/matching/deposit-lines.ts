import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { referenceKeysIn, type Remittance } from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

interface Row {
  readonly id: number;
  readonly account: AccountId;
  readonly date: PlainDate;
  readonly amount: Minor;
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
}

/** A statement line as the stages after payouts take it. */
export type Deposit = Remittance & { readonly account: AccountId };

/** These lines, in the order of their ids, with the payments of those that are sums; `which` selects their ids. */
export async function depositLines(db: Reading, which: ReturnType<typeof sql>): Promise<Deposit[]> {
  const { rows } = await sql<Row>`
    SELECT l.id, l.account_id AS account, l.book_date AS date, l.amount, l.text, l.counterparty, l.reference
    FROM statement_line l WHERE l.id IN (${which}) ORDER BY l.id
  `.execute(db);
  const { rows: details } = await sql<Omit<Row, 'date' | 'account'>>`
    SELECT d.line_id AS id, d.amount, d.text, d.counterparty, d.reference FROM statement_line_detail d
    WHERE d.line_id IN (SELECT id FROM statement_line WHERE amount > 0 AND id IN (${which})) ORDER BY d.line_id, d.no
  `.execute(db);
  const said = (row: Omit<Row, 'date' | 'account'>) => {
    const text = `${row.text} ${row.counterparty} ${row.reference}`;
    return { amount: row.amount, keys: referenceKeysIn(text), text };
  };
  const ofLine = new Map<number, ReturnType<typeof said>[]>();
  for (const row of details) ofLine.set(row.id, [...(ofLine.get(row.id) ?? []), said(row)]);
  return rows.map((row) => ({
    id: row.id,
    account: row.account,
    date: row.date,
    ...said(row),
    details: (ofLine.get(row.id) ?? []).map((detail) => ({ ...detail, date: row.date })),
  }));
}
