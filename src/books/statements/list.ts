import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { CERTAINTIES, reasonWords, type Certainty, type Confirmable, type Reason } from '@/core/matching';
import type { Currency, Minor } from '@/core/money';
import { parseLooseAmount } from '@/formats/table/loose';
import { DOUBLED_LINES } from '../doubled/list';
import { containing } from '../receipts/filter';
import { cursorParam, cut, PAGE_SIZE, type CountAndAmount, type Cursor, type Page } from '../lists/page';
import type { Reading } from '../store';

export const lineFilter = z.object({
  state: z.enum(['to-explain', 'matched', 'doubled', 'aside', 'all']).default('to-explain'),
  /** Any part of the bank's text, the counterparty, a reference or one of its payments; or an amount, in or out. */
  text: z.string().trim().min(1).max(100).optional(),
});
export type LineFilter = z.infer<typeof lineFilter>;

export interface LineListRow {
  readonly id: number;
  readonly date: PlainDate;
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
  /** Minor units; negative went out. */
  readonly amount: Minor;
  readonly match: number | null;
  /** Why it is set aside. */
  readonly aside: string | null;
  readonly certainty: Certainty | null;
  /** What is laid on its sheet, in words; empty where nothing is. */
  readonly laid: string;
}

/** A part `x` of the sheet of line `l` in words; `other` is the line it is laid with. */
const partName = (other: ReturnType<typeof sql>) => sql`CASE x.kind
  WHEN 'payout' THEN 'Payout ' || (SELECT external_id FROM payout WHERE id = x.ref_id)
  WHEN 'receipt' THEN 'Receipt ' || (SELECT external_id FROM receipt WHERE id = x.ref_id)
  WHEN 'account' THEN 'Booked to ' || (SELECT name FROM account WHERE id = x.ref_id)
  WHEN 'line' THEN (SELECT CASE WHEN o.account_id = l.account_id THEN 'Another line of ' ELSE 'Transfer with ' END || a.name
    FROM statement_line o JOIN account a ON a.id = o.account_id WHERE o.id = ${other})
  ELSE 'Invoice ' || (SELECT number FROM invoice WHERE id = x.ref_id) END`;

const andMore = (count: ReturnType<typeof sql>) =>
  sql`CASE WHEN (${count}) > 1 THEN ' and ' || ((${count}) - 1) || ' more' ELSE '' END`;

const LAID = sql<string>`coalesce((
  SELECT ${partName(sql`x.ref_id`)}
    || ${andMore(sql`SELECT count(*) FROM proposal_part n WHERE n.statement_line_id = l.id AND n.rank = 0`)}
  FROM proposal_part x WHERE x.statement_line_id = l.id AND x.rank = 0 AND x.no = 1), '')`;

/** Seen from a line that was laid on the sheet of another, that one is the other. */
const OTHER_LINE = sql`CASE WHEN x.ref_id <> l.id THEN x.ref_id ELSE (
  SELECT statement_line_id FROM match_line WHERE match_id = l.match_id AND place = 1) END`;

const MATCHED = sql<string>`coalesce((
  SELECT ${partName(OTHER_LINE)} || ${andMore(sql`SELECT count(*) FROM match_part n WHERE n.match_id = x.match_id`)}
  FROM match_part x WHERE x.match_id = l.match_id AND x.part_no = 1),
  (SELECT 'Booked to ' || a.name FROM match m JOIN account a ON a.id = m.rest_account_id WHERE m.id = l.match_id), '')`;

/** Where a page of lines ends; lines to explain are ordered by certainty first. */
export interface LineCursor extends Cursor {
  readonly certainty: Certainty | null;
}

/** A cursor as it stands in an address: proven_2026-11-09_123, or without the certainty. */
export function parseLineCursor(text: string | undefined): LineCursor | null {
  const parts = text?.split('_') ?? [];
  const certainty = CERTAINTIES.find((word) => word === parts[0]) ?? null;
  const cursor = cursorParam.parse(parts.slice(certainty === null ? 0 : 1).join('_'));
  return cursor && { ...cursor, certainty };
}

function saying(filter: LineFilter) {
  if (!filter.text) return sql`1`;
  const like = containing(filter.text);
  const amount = amountIn(filter.text);
  return sql`(l.text LIKE ${like} ESCAPE '\\' OR l.counterparty LIKE ${like} ESCAPE '\\'
    OR l.reference LIKE ${like} ESCAPE '\\' OR l.bank_id LIKE ${like} ESCAPE '\\' OR l.aside LIKE ${like} ESCAPE '\\'
    OR EXISTS (SELECT 1 FROM statement_line_detail d WHERE d.line_id = l.id
      AND (d.text LIKE ${like} ESCAPE '\\' OR d.counterparty LIKE ${like} ESCAPE '\\' OR d.reference LIKE ${like} ESCAPE '\\'))
    ${amount === null ? sql`` : sql`OR abs(l.amount) = ${amount}`})`;
}

/** What is typed as an amount, in either way of writing it; minor units of a currency with cents. */
function amountIn(text: string): number | null {
  const plain = text.replace(/[\s']/g, '');
  if (!/^[-−]?[\d.,]+$/.test(plain)) return null;
  const mark = /([.,])\d{1,2}$/.exec(plain)?.[1] === ',' ? ',' : '.';
  const parsed = parseLooseAmount(plain, 'EUR', mark);
  return parsed.ok ? Math.abs(parsed.minor) : null;
}

const IN_STATE: Readonly<Record<Exclude<LineFilter['state'], 'to-explain'>, ReturnType<typeof sql>>> = {
  matched: sql`l.match_id IS NOT NULL`,
  doubled: sql`l.id IN ${DOUBLED_LINES}`,
  aside: sql`l.aside IS NOT NULL`,
  all: sql`1`,
};

const COLUMNS = sql`
  l.id, l.book_date AS date, l.text, l.counterparty, l.reference, l.amount, l.match_id AS match, l.aside,
  CASE WHEN l.match_id IS NULL THEN ${LAID} ELSE ${MATCHED} END AS laid`;

/** Lines to explain, surest group first, newest first in each: one index range per group. */
async function rowsToExplain(
  db: Reading,
  filter: LineFilter,
  after: LineCursor | null,
  limit: number,
): Promise<LineListRow[]> {
  const rows: LineListRow[] = [];
  const begin = Math.max(0, CERTAINTIES.indexOf(after?.certainty ?? 'proven'));
  for (const certainty of CERTAINTIES.slice(begin)) {
    const beyond =
      after?.certainty === certainty ? sql`(q.book_date, q.statement_line_id) < (${after.date}, ${after.id})` : sql`1`;
    const found = await sql<LineListRow>`
      SELECT ${COLUMNS}, q.certainty FROM proposal q JOIN statement_line l ON l.id = q.statement_line_id
      WHERE q.certainty = ${certainty} AND ${saying(filter)} AND ${beyond}
      ORDER BY q.book_date DESC, q.statement_line_id DESC LIMIT ${limit - rows.length}
    `.execute(db);
    rows.push(...found.rows);
    if (rows.length >= limit) break;
  }
  return rows;
}

/** Lines after a cursor: what is to explain by certainty, the others newest first. */
export async function lineRows(
  db: Reading,
  filter: LineFilter,
  after: LineCursor | null,
  limit: number,
): Promise<LineListRow[]> {
  if (filter.state === 'to-explain') return rowsToExplain(db, filter, after, limit);
  const { rows } = await sql<LineListRow>`
    SELECT ${COLUMNS}, (SELECT certainty FROM proposal q WHERE q.statement_line_id = l.id) AS certainty
    FROM statement_line l
    WHERE ${IN_STATE[filter.state]} AND ${saying(filter)}
      AND ${after ? sql`(l.book_date, l.id) < (${after.date}, ${after.id})` : sql`1`}
    ORDER BY l.book_date DESC, l.id DESC LIMIT ${limit}
  `.execute(db);
  return rows;
}

/** One page of statement lines with the totals of the filter. */
export async function listLines(
  db: Reading,
  filter: LineFilter,
  after: LineCursor | null,
): Promise<Page<LineListRow, CountAndAmount>> {
  const { rows, next } = cut(await lineRows(db, filter, after, PAGE_SIZE + 1));
  const open = filter.state === 'to-explain';
  const from =
    open && !filter.text
      ? sql`proposal l`
      : sql`statement_line l ${open ? sql`JOIN proposal q ON q.statement_line_id = l.id` : sql``}`;
  const { rows: totals } = await sql<CountAndAmount>`
    SELECT count(*) AS count, coalesce(sum(l.amount), 0) AS amount FROM ${from}
    WHERE ${saying(filter)} AND ${filter.state === 'to-explain' ? sql`1` : IN_STATE[filter.state]}
  `.execute(db);
  const certainty = rows.at(-1)?.certainty;
  return { rows, next: next && (open ? `${certainty}_${next}` : next), totals: totals[0]! };
}

export type CertaintyGroups = Readonly<Record<Certainty, CountAndAmount>>;

/** How many lines wait in each group of certainty, and what they come to; of those that say a text where one is given. */
export async function certaintyGroups(db: Reading, text?: string): Promise<CertaintyGroups> {
  const { rows } = await (
    text
      ? sql<CountAndAmount & { certainty: Certainty }>`
        SELECT q.certainty, count(*) AS count, sum(l.amount) AS amount
        FROM proposal q JOIN statement_line l ON l.id = q.statement_line_id
        WHERE ${saying({ state: 'to-explain', text })} GROUP BY q.certainty`
      : sql<CountAndAmount & { certainty: Certainty }>`
        SELECT certainty, count(*) AS count, sum(amount) AS amount FROM proposal GROUP BY certainty`
  ).execute(db);
  const of = (certainty: Certainty): CountAndAmount => {
    const row = rows.find((one) => one.certainty === certainty);
    return { count: row?.count ?? 0, amount: row?.amount ?? (0 as Minor) };
  };
  return Object.fromEntries(CERTAINTIES.map((certainty) => [certainty, of(certainty)])) as CertaintyGroups;
}

/** All lines that are proven now, for confirming them in one go. */
export async function provenLines(db: Reading): Promise<{ id: number; amount: Minor }[]> {
  return db
    .selectFrom('proposal')
    .select(['statement_line_id as id', 'amount'])
    .where('certainty', '=', 'proven')
    .orderBy('book_date')
    .orderBy('statement_line_id')
    .limit(100_000)
    .execute();
}

export interface LaidLine extends LineListRow {
  readonly because: readonly string[];
}

/** Lines that are as sure now, the newest first, each with what is laid and why: what one looks at before confirming them. */
export async function laidLines(db: Reading, certainty: Confirmable, limit: number): Promise<LaidLine[]> {
  const { rows } = await sql<LineListRow & { reasons: string; currency: Currency }>`
    SELECT ${COLUMNS}, q.certainty, q.reasons, l.currency FROM proposal q JOIN statement_line l ON l.id = q.statement_line_id
    WHERE q.certainty = ${certainty} ORDER BY q.book_date DESC, q.statement_line_id DESC LIMIT ${limit}
  `.execute(db);
  return rows.map(({ reasons, currency, ...row }) => ({
    ...row,
    because: (JSON.parse(reasons) as Reason[]).map((reason) => reasonWords(reason, currency)),
  }));
}

/** How many lines are set aside. */
export async function countAside(db: Reading): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM statement_line WHERE aside IS NOT NULL
  `.execute(db);
  return rows[0]!.n;
}

export async function countMatched(db: Reading): Promise<number> {
  const { n } = await db
    .selectFrom('match_line')
    .select((e) => e.fn.countAll<number>().as('n'))
    .where('live', '=', 1)
    .executeTakeFirstOrThrow();
  return n;
}
