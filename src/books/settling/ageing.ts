import { sql } from 'kysely';
import { addDays, type PlainDate } from '@/core/calendar';
import { AGEING_SPANS, type AgeingSpan } from '@/core/receivables';
import { subtract, sum, ZERO, type Minor } from '@/core/money';
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

/**
 * What each invoice had open at the end of a day: the sum of its entries up to then, whatever was reversed, corrected or paid
 * since. In one pass over an index that holds all of it.
 */
const openOn = (asOf: PlainDate) => sql`
  SELECT invoice_id AS id, sum(amount) AS open FROM invoice_entry INDEXED BY invoice_entry_invoice
  WHERE book_date <= ${asOf} GROUP BY invoice_id HAVING sum(amount) <> 0`;

async function receivableOn(db: Reading, asOf: PlainDate): Promise<Minor> {
  const { rows } = await sql<{ balance: Minor | null }>`
    SELECT sum(d.debit - d.credit) AS balance FROM account a JOIN account_day d ON d.account_id = a.id
    WHERE a.role = 'receivable' AND d.day <= ${asOf}
  `.execute(db);
  return rows[0]!.balance ?? ZERO;
}

/** What a payer had open: how many invoices, all of it, and what of it was due before each span's edge, latest first. */
interface OpenOfPayer {
  readonly payer: number;
  readonly invoices: number;
  readonly open: Minor;
  readonly dueBefore: readonly Minor[];
}

/** The days before which an amount is in the second, third … span. */
const edges = (asOf: PlainDate) => [0, 30, 60, 90].map((days) => addDays(asOf, -days));

const openByPayer = (invoices: ReturnType<typeof sql>, asOf: PlainDate) => sql<
  Omit<OpenOfPayer, 'dueBefore'> & Record<'b0' | 'b1' | 'b2' | 'b3', Minor>
>`
  SELECT payer_id AS payer, count(*) AS invoices, sum(open) AS open, ${sql.join(
    edges(asOf).map((day, no) => sql`sum(iif(due < ${day}, open, 0)) AS ${sql.ref(`b${no}`)}`),
  )} FROM (${invoices}) GROUP BY payer_id`;

async function openOfPayers(db: Reading, invoices: ReturnType<typeof sql>, asOf: PlainDate): Promise<OpenOfPayer[]> {
  const { rows } = await openByPayer(invoices, asOf).execute(db);
  return rows.map(({ payer, invoices: count, open, b0, b1, b2, b3 }) => ({
    payer,
    invoices: count,
    open,
    dueBefore: [b0, b1, b2, b3],
  }));
}

/** From the entries up to that day. */
const fromEntries = (db: Reading, asOf: PlainDate) =>
  openOfPayers(db, sql`SELECT i.payer_id, i.due, o.open FROM (${openOn(asOf)}) o JOIN invoice i ON i.id = o.id`, asOf);

/**
 * From what each invoice says of itself now, one pass over an index in the order of payers. Null unless no entry is later than
 * the day and the whole is what the entries come to.
 */
async function asItStands(db: Reading, asOf: PlainDate): Promise<OpenOfPayer[] | null> {
  const { rows: entries } = await sql<{ total: Minor | null; last: PlainDate | null }>`
    SELECT sum(amount) AS total, max(book_date) AS last FROM invoice_entry INDEXED BY invoice_entry_invoice
  `.execute(db);
  const { total, last } = entries[0]!;
  if (last !== null && last > asOf) return null;
  const invoices = sql`SELECT payer_id, due, gross - paid AS open FROM invoice INDEXED BY invoice_open_payer
    WHERE journal_id IS NOT NULL AND paid <> gross`;
  const payers = await openOfPayers(db, invoices, asOf);
  return sum(payers.map(({ open }) => open)) === (total ?? 0) ? payers : null;
}

/** What is in each span: what was due before its edge and not before the next. */
function spans({ open, dueBefore }: OpenOfPayer): Record<AgeingSpan, Minor> {
  const upTo = [open, ...dueBefore, ZERO];
  return Object.fromEntries(AGEING_SPANS.map(({ key }, no) => [key, subtract(upTo[no]!, upTo[no + 1]!)])) as Record<
    AgeingSpan,
    Minor
  >;
}

/** Who owed what on a day, by payer, those who owed most first; equal to the receivable account's balance to the cent. */
export async function ageing(db: Reading, asOf: PlainDate, limit = AGEING_SHOWN): Promise<Ageing> {
  const payers = (await asItStands(db, asOf)) ?? (await fromEntries(db, asOf));
  const names = new Map(
    (await db.selectFrom('payer').select(['id', 'name']).execute()).map(({ id, name }) => [id, name]),
  );
  const rows = payers
    .map((of): AgeingRow => ({
      payer: of.payer,
      name: names.get(of.payer)!,
      invoices: of.invoices,
      open: of.open,
      ...spans(of),
    }))
    .sort((x, y) => y.open - x.open || x.name.localeCompare(y.name));
  const total = (of: keyof Aged) => sum(rows.map((row) => row[of]));
  const bySpan = Object.fromEntries(AGEING_SPANS.map(({ key }) => [key, total(key)])) as Record<AgeingSpan, Minor>;
  const open = total('open');
  const balance = await receivableOn(db, asOf);
  return {
    asOf,
    rows: rows.slice(0, limit),
    payers: rows.length,
    totals: { ...bySpan, open },
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
