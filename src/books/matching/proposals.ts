import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import type { PlainDate, WorkingCalendar } from '@/core/calendar';
import {
  proposePayouts,
  referenceKeysIn,
  type LineToExplain,
  type PayoutInTransit,
  type Proposal,
} from '@/core/matching';
import type { Minor } from '@/core/money';
import { refreshDoubled } from '../doubled/find';
import type { Reading, Writing } from '../store';
import { refreshDeep, type Days, type Scope } from './deep';
import { FREE_PAYOUT, HABIT } from './free-payouts';
import { keepProposals } from './keep-proposals';

/** Lines looked at together; the lines of one amount are never torn apart. */
const BATCH = 2_000;
const NO_KEYS: ReadonlySet<string> = new Set();

/** Things that are on a confirmed sheet now, and so on no other: their ids by kind. */
export interface Gone {
  readonly payouts: readonly number[];
  readonly receipts: readonly number[];
  readonly invoices: readonly number[];
  readonly lines: readonly number[];
}

/**
 * What to work out again: everything that is free; what the lines of a run can touch; or what these amounts can, of lines and
 * payouts that came free on these days, or that are gone.
 */
export type Touched =
  | { readonly all: true }
  | { readonly statementRun: number }
  | { readonly amounts: readonly Minor[]; readonly days: readonly PlainDate[]; readonly gone?: Gone };

/**
 * Works out again what explains the free statement lines and keeps it with them. A pair has one amount, so lines and
 * payouts are taken an amount range at a time: what is held is a batch, however much is free. A line may also name a
 * payout of another amount, which is looked up by the ids in the line's text. Where something is gone, a line that no payout
 * explained before has none now either, so only those that had one are asked.
 */
export async function refreshProposals(tx: Writing, touched: Touched): Promise<void> {
  const { db } = tx;
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  const gone = 'gone' in touched ? touched.gone : undefined;
  await makeTouched(db);
  await gatherAmounts(db, touched);
  await gatherLines(db, gone !== undefined);
  const unexplained: Unexplained[] = [];
  for (let above = Number.MIN_SAFE_INTEGER; ;) {
    const lines = await nextLines(db, above);
    if (lines.length === 0) break;
    above = lines.at(-1)!.amount;
    unexplained.push(...(await propose(tx, lines, calendar)));
  }
  for (const table of ['touched_amount', 'touched_line'] as const)
    await sql`DELETE FROM ${sql.table(`temp.${table}`)}`.execute(db);
  const scope = await deepScope(db, touched, unexplained);
  if (scope !== 'none') await refreshDeep(tx, scope);
  // What is gone explains nothing more, which is seen where it is shown.
  if ('all' in touched) await refreshDoubled(tx);
  else if (!gone) {
    const around = await daysAround(db, touched);
    if (around) await refreshDoubled(tx, around);
  }
}

/** Up to this many lines to explain, all of them are asked again; above it those around what was touched. */
const ASKED_ALWAYS = 1_000;
/** A run of receipts and its lag lie within these days on either side. */
const AROUND = 31;

/** A line that no payout explains, and whether that is otherwise than was said of it before. */
interface Unexplained {
  readonly id: number;
  readonly date: PlainDate;
  readonly news: boolean;
}

/** Which deposits are asked again for invoices, receipts and all that no payout is. */
async function deepScope(
  db: Reading,
  touched: Touched,
  unexplained: readonly Unexplained[],
): Promise<Scope | null | 'none'> {
  if ('all' in touched || (await waiting(db, sql`1`)) <= ASKED_ALWAYS) return null;
  const around = await daysAround(db, touched);
  if ('statementRun' in touched) {
    if (around === null) return 'none';
    const beyond = unexplained.filter(({ date, news }) => news && (date < around.from || date > around.to));
    return { ...around, ids: beyond.map(({ id }) => id) };
  }
  const ids = [...unexplained.map(({ id }) => id), ...(touched.gone ? await laidOn(db, touched.gone) : [])];
  const onlyPayouts = touched.gone !== undefined && touched.gone.receipts.length + touched.gone.invoices.length === 0;
  if (ids.length === 0 && onlyPayouts) return 'none';
  // What lies around is asked with it, as long as that is little.
  const few =
    around !== null && (await waiting(db, sql`book_date BETWEEN ${around.from} AND ${around.to}`)) <= ASKED_ALWAYS;
  return few ? { ...around, ids } : ids.length === 0 ? 'none' : { ids };
}

async function waiting(db: Reading, where: ReturnType<typeof sql>): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM (SELECT 1 FROM proposal WHERE ${where} LIMIT ${ASKED_ALWAYS + 1})
  `.execute(db);
  return rows[0]!.n;
}

/** The days around what was touched; null where nothing was. */
async function daysAround(db: Reading, touched: Exclude<Touched, { all: true }>): Promise<Days | null> {
  const days =
    'statementRun' in touched
      ? sql`SELECT book_date AS day FROM statement_line WHERE run_id = ${touched.statementRun}`
      : sql`SELECT value AS day FROM json_each(${JSON.stringify(touched.days)})`;
  const { rows } = await sql<{ from: PlainDate | null; to: PlainDate | null }>`
    SELECT date(min(day), ${`-${AROUND} days`}) AS "from", date(max(day), ${`+${AROUND} days`}) AS "to" FROM (${days})
  `.execute(db);
  const { from, to } = rows[0]!;
  return from === null || to === null ? null : { from, to };
}

/** Lines on whose sheets something lies, or might, that is gone. */
async function laidOn(db: Reading, gone: Gone): Promise<number[]> {
  const among = (kind: string, ids: readonly number[]) =>
    sql`SELECT statement_line_id AS id FROM proposal_part WHERE kind = ${kind} AND ref_id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))`;
  const { rows } = await sql<{ id: number }>`
    ${among('payout', gone.payouts)} UNION ${among('receipt', gone.receipts)}
    UNION ${among('invoice', gone.invoices)} UNION ${among('line', gone.lines)}
  `.execute(db);
  return rows.map(({ id }) => id);
}

/**
 * Makes the tables of what is asked, once for a connection: making one, or dropping it, has SQLite compile every other statement of
 * the connection again. They are empty between changes.
 */
async function makeTouched(db: Reading): Promise<void> {
  await sql`CREATE TEMP TABLE IF NOT EXISTS touched_amount (amount INTEGER PRIMARY KEY) STRICT`.execute(db);
  await sql`
    CREATE TEMP TABLE IF NOT EXISTS touched_line (amount INTEGER, id INTEGER, PRIMARY KEY (amount, id))
    STRICT, WITHOUT ROWID
  `.execute(db);
}

/** Keeps the amounts that are looked at in temp.touched_amount. */
async function gatherAmounts(db: Reading, touched: Touched): Promise<void> {
  const amounts =
    'all' in touched
      ? sql`SELECT DISTINCT amount FROM statement_line WHERE match_id IS NULL AND aside IS NULL`
      : 'amounts' in touched
        ? sql`SELECT DISTINCT value FROM json_each(${JSON.stringify(touched.amounts)})`
        : sql`SELECT DISTINCT amount FROM statement_line WHERE run_id = ${touched.statementRun}`;
  await sql`INSERT INTO temp.touched_amount ${amounts}`.execute(db);
}

/** Keeps the lines that are asked again in temp.touched_line. */
async function gatherLines(db: Reading, gone: boolean): Promise<void> {
  const explained = sql`q.deep = 0 AND q.certainty IN ('proven', 'probable', 'open')`;
  await sql`
    INSERT INTO temp.touched_line SELECT l.amount, l.id
    FROM temp.touched_amount t CROSS JOIN statement_line l ON l.amount = t.amount AND l.match_id IS NULL AND l.aside IS NULL
    ${gone ? sql`CROSS JOIN proposal q ON q.statement_line_id = l.id AND ${explained}` : sql``}
  `.execute(db);
}

interface FreeLine extends LineToExplain {
  readonly amount: Minor;
  /** What is said of it is that no payout explains it, and so it stays where none does. */
  readonly stays: 0 | 1;
}

/** Of a proposal q: it came of all that no payout is, and nothing in it is of a payout. */
const NO_PAYOUT = sql`(q.deep = 1 OR q.certainty IN ('none', 'not-due') AND q.reasons NOT LIKE '%"reference-but-amount"%')`;

/** The next free lines in order of their amounts, about a batch of them: those of one amount stay together. */
async function nextLines(db: Reading, above: number): Promise<FreeLine[]> {
  const free = (where: ReturnType<typeof sql>) => sql<Omit<FreeLine, 'keys'> & { text: string; reference: string }>`
    SELECT l.id, l.account_id AS account, l.book_date AS date, l.amount, l.text, l.reference,
      coalesce(${NO_PAYOUT}, 0) AS stays
    FROM temp.touched_line t JOIN statement_line l ON l.id = t.id
    LEFT JOIN proposal q ON q.statement_line_id = l.id WHERE ${where} ORDER BY t.amount`;
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

/** Proposes payouts for these lines, and gives those that none explains; what else was found for one of them is kept. */
async function propose(tx: Writing, lines: readonly FreeLine[], calendar: WorkingCalendar): Promise<Unexplained[]> {
  const keys = lines.flatMap((line) => [...line.keys]);
  const payouts = await freePayouts(tx.db, lines[0]!.amount, lines.at(-1)!.amount, keys);
  const byId = new Map(lines.map((line) => [line.id, line]));
  const proposals = proposePayouts(lines, payouts, calendar, HABIT);
  const stays = ({ line, certainty, reasons }: Proposal) =>
    certainty === 'none' && reasons.length === 0 && byId.get(line)!.stays === 1;
  await keepProposals(
    tx,
    proposals.filter((proposal) => !stays(proposal)),
    byId,
    () => 0,
  );
  const none = proposals.filter(({ certainty }) => certainty === 'none');
  return none.map((proposal) => ({ id: proposal.line, date: byId.get(proposal.line)!.date, news: !stays(proposal) }));
}

/** Free payouts of the amounts that are asked within these two, and those of any amount that are named. */
async function freePayouts(db: Reading, from: number, to: number, keys: readonly string[]) {
  const { rows } = await sql<PayoutInTransit>`
    SELECT ${FREE_PAYOUT} WHERE p.match_id IS NULL AND p.currency = (SELECT currency FROM books)
      AND p.net IN (SELECT amount FROM temp.touched_line WHERE amount BETWEEN ${from} AND ${to})
    UNION
    SELECT ${FREE_PAYOUT} WHERE p.match_id IS NULL
      AND p.reference_key IN (SELECT value FROM json_each(${JSON.stringify(keys)}))
  `.execute(db);
  return rows;
}
