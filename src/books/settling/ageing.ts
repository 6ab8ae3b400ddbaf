import { sql } from 'kysely';
import { addDays, type PlainDate } from '@/core/calendar';
import { AGEING_SPANS, type AgeingSpan } from '@/core/receivables';
import { add, subtract, sum, ZERO, type Minor } from '@/core/money';
import type { Reading } from '../store';

/** What is open by how long it has been due, in minor units. */
export type Aged = Readonly<Record<AgeingSpan, Minor>> & { readonly open: Minor };

export interface AgeingRow extends Aged {
  readonly payer: number;
  readonly name: string;
  readonly invoices: number;
}

export interface Ageing {
  readonly asOf: PlainDate;
  readonly rows: readonly AgeingRow[];
  readonly payers: number;
  readonly totals: Aged;
  /** What the receivable account holds beside invoices: opening balances. */
  readonly beside: Minor;
  /** The account's balance on that day: totals and what is beside them. */
  readonly balance: Minor;
}

export const AGEING_SHOWN = 200;

const NOTHING: Aged = { notDue: ZERO, days30: ZERO, days60: ZERO, days90: ZERO, older: ZERO, open: ZERO };

/**
 * What each invoice had open at the end of a day: the sum of its entries up to then, whatever was reversed, corrected or paid
 * since. In one pass over an index that holds all of it.
 */
const openOn = (asOf: PlainDate) => sql`
  SELECT invoice_id AS id, sum(amount) AS open FROM invoice_entry INDEXED BY invoice_entry_invoice
  WHERE book_date <= ${asOf} GROUP BY invoice_id HAVING sum(amount) <> 0`;

/** Which span a due day is in, counted from the first: narrow rows are what the grouping has to sort. */
const spanNo = (asOf: PlainDate) => {
  const before = (days: number) => sql`(i.due < ${addDays(asOf, -days)})`;
  return sql`${before(0)} + ${before(30)} + ${before(60)} + ${before(90)}`;
};

async function receivableOn(db: Reading, asOf: PlainDate): Promise<Minor> {
  const { rows } = await sql<{ balance: Minor | null }>`
    SELECT sum(d.debit - d.credit) AS balance FROM account a JOIN account_day d ON d.account_id = a.id
    WHERE a.role = 'receivable' AND d.day <= ${asOf}
  `.execute(db);
  return rows[0]!.balance ?? ZERO;
}

/** Who owed what on a day, by payer, those who owed most first; equal to the receivable account's balance to the cent. */
export async function ageing(db: Reading, asOf: PlainDate, limit = AGEING_SHOWN): Promise<Ageing> {
  const { rows: parts } = await sql<{ payer: number; span: number; invoices: number; open: Minor }>`
    SELECT payer, span, count(*) AS invoices, sum(open) AS open FROM (
      SELECT i.payer_id AS payer, ${spanNo(asOf)} AS span, o.open
      FROM (${openOn(asOf)}) o JOIN invoice i ON i.id = o.id)
    GROUP BY payer, span
  `.execute(db);
  const names = new Map(
    (await db.selectFrom('payer').select(['id', 'name']).execute()).map(({ id, name }) => [id, name]),
  );
  const byPayer = new Map<number, { -readonly [K in keyof AgeingRow]: AgeingRow[K] }>();
  for (const { payer, span, invoices, open } of parts) {
    const row = byPayer.get(payer) ?? { payer, name: names.get(payer)!, invoices: 0, ...NOTHING };
    row.invoices += invoices;
    row.open = add(row.open, open);
    row[AGEING_SPANS[span]!.key] = open;
    byPayer.set(payer, row);
  }
  const rows: AgeingRow[] = [...byPayer.values()].sort((x, y) => y.open - x.open || x.name.localeCompare(y.name));
  const total = (of: keyof Aged) => sum(rows.map((row) => row[of]));
  const spans = Object.fromEntries(AGEING_SPANS.map(({ key }) => [key, total(key)])) as Record<AgeingSpan, Minor>;
  const open = total('open');
  const balance = await receivableOn(db, asOf);
  return {
    asOf,
    rows: rows.slice(0, limit),
    payers: rows.length,
    totals: { ...spans, open },
    beside: subtract(balance, open),
    balance,
  };
}

export interface AgedInvoice {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly due: PlainDate;
  readonly gross: Minor;
  readonly open: Minor;
}

/** The invoices that a payer had open on a day, those due longest first. */
export async function agedInvoices(db: Reading, payer: number, asOf: PlainDate): Promise<AgedInvoice[]> {
  const { rows } = await sql<AgedInvoice>`
    SELECT i.id, i.number, i.issued, i.due, i.gross, sum(e.amount) AS open
    FROM invoice i JOIN invoice_entry e ON e.invoice_id = i.id
    WHERE i.payer_id = ${payer} AND e.book_date <= ${asOf}
    GROUP BY i.id HAVING sum(e.amount) <> 0 ORDER BY i.due, i.id LIMIT 500
  `.execute(db);
  return rows;
}
