import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import type { PlainDate, WorkingCalendar } from '@/core/calendar';
import { proposePayouts, referenceKeysIn, type LineToExplain, type PayoutInTransit } from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Reading, Writing } from '../store';
import { refreshDeep, type Days } from './deep';
import { FREE_PAYOUT, HABIT } from './free-payouts';
import { ProposalWriter } from './keep-proposals';

/** Lines looked at together; the lines of one amount are never torn apart. */
const BATCH = 2_000;
const NO_KEYS: ReadonlySet<string> = new Set();

/** What to work out again: everything that is free, or only what these amounts, or the lines of this run, can touch. */
export type Touched =
  { readonly all: true } | { readonly amounts: readonly Minor[] } | { readonly statementRun: number };

/**
 * Works out again what explains the free statement lines and keeps it with them. A pair has one amount, so lines and
 * payouts are taken an amount range at a time: what is held is a batch, however much is free. A line may also name a
 * payout of another amount, which is looked up by the ids in the line's text.
 */
export async function refreshProposals(tx: Writing, touched: Touched): Promise<void> {
  const { db } = tx;
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  await gatherAmounts(db, touched);
  await sql`DELETE FROM proposal WHERE amount IN (SELECT amount FROM temp.touched_amount)`.execute(db);
  const days = await touchedDays(db, touched);
  const into = new ProposalWriter(tx, 0);
  for (let above = Number.MIN_SAFE_INTEGER; ;) {
    const lines = await nextLines(db, above);
    if (lines.length === 0) break;
    above = lines.at(-1)!.amount;
    await propose(db, lines, calendar, into);
  }
  await sql`DROP TABLE temp.touched_amount`.execute(db);
  if (days !== 'none') await refreshDeep(tx, days);
}

/** Up to this many lines to explain, all of them are asked again; above it those around what was touched. */
const ASKED_ALWAYS = 3_000;
/** A run of receipts and its lag lie within these days on either side. */
const AROUND = 31;

/** Which days' deposits are asked again for invoices and receipts. */
async function touchedDays(db: Reading, touched: Touched): Promise<Days | null | 'none'> {
  const { rows: waiting } = await sql<{ n: number }>`SELECT count(*) AS n FROM proposal`.execute(db);
  if ('all' in touched || waiting[0]!.n <= ASKED_ALWAYS) return null;
  const of = 'statementRun' in touched
    ? sql`run_id = ${touched.statementRun}`
    : sql`amount IN (SELECT amount FROM temp.touched_amount)`; // prettier-ignore
  const { rows } = await sql<{ from: PlainDate | null; to: PlainDate | null }>`
    SELECT date(min(book_date), ${`-${AROUND} days`}) AS "from", date(max(book_date), ${`+${AROUND} days`}) AS "to"
    FROM statement_line WHERE ${of}
  `.execute(db);
  const { from, to } = rows[0]!;
  return from === null || to === null ? 'none' : { from, to };
}

/** Keeps the amounts that are looked at in temp.touched_amount. */
async function gatherAmounts(db: Reading, touched: Touched): Promise<void> {
  const amounts =
    'all' in touched
      ? sql`SELECT DISTINCT amount FROM statement_line WHERE match_id IS NULL AND aside IS NULL`
      : 'amounts' in touched
        ? sql`SELECT DISTINCT value FROM json_each(${JSON.stringify(touched.amounts)})`
        : sql`SELECT DISTINCT amount FROM statement_line WHERE run_id = ${touched.statementRun}`;
  await sql`CREATE TEMP TABLE touched_amount (amount INTEGER PRIMARY KEY) STRICT`.execute(db);
  await sql`INSERT INTO temp.touched_amount ${amounts}`.execute(db);
}

interface FreeLine extends LineToExplain {
  readonly amount: Minor;
}

/** The next free lines in order of their amounts, about a batch of them: those of one amount stay together. */
async function nextLines(db: Reading, above: number): Promise<FreeLine[]> {
  const free = (where: ReturnType<typeof sql>) => sql<Omit<FreeLine, 'keys'> & { text: string; reference: string }>`
    SELECT l.id, l.account_id AS account, l.book_date AS date, l.amount, l.text, l.reference
    FROM temp.touched_amount t JOIN statement_line l ON l.amount = t.amount AND l.match_id IS NULL AND l.aside IS NULL
    WHERE ${where} ORDER BY t.amount`;
  const { rows } = await sql<
    Omit<FreeLine, 'keys'> & { text: string; reference: string }
  >`${free(sql`t.amount > ${above}`)} LIMIT ${BATCH}`.execute(db);
  if (rows.length === BATCH) {
    const last = rows.at(-1)!.amount;
    const whole = rows.findIndex((row) => row.amount === last);
    rows.length = whole;
    if (whole === 0) rows.push(...(await free(sql`t.amount = ${last}`).execute(db)).rows);
  }
  // Only a deposit can be a payout, so only its text is searched for ids.
  return rows.map(({ text, reference, ...line }) => ({
    ...line,
    keys: line.amount > 0 ? referenceKeysIn(`${text} ${reference}`) : NO_KEYS,
  }));
}

async function propose(
  db: Reading,
  lines: readonly FreeLine[],
  calendar: WorkingCalendar,
  into: ProposalWriter,
): Promise<void> {
  const keys = lines.flatMap((line) => [...line.keys]);
  const payouts = await freePayouts(db, lines[0]!.amount, lines.at(-1)!.amount, keys);
  const byId = new Map(lines.map((line) => [line.id, line]));
  into.write(proposePayouts(lines, payouts, calendar, HABIT), byId);
}

/** Free payouts of these amounts, and those of any amount that are named. */
async function freePayouts(db: Reading, from: number, to: number, keys: readonly string[]) {
  const { rows } = await sql<PayoutInTransit>`
    SELECT ${FREE_PAYOUT} WHERE p.match_id IS NULL AND p.net BETWEEN ${from} AND ${to}
      AND p.currency = (SELECT currency FROM books)
    UNION
    SELECT ${FREE_PAYOUT} WHERE p.match_id IS NULL
      AND p.reference_key IN (SELECT value FROM json_each(${JSON.stringify(keys)}))
  `.execute(db);
  return rows;
}
