import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Certainty } from '@/core/matching';
import type { Minor } from '@/core/money';
import { containing } from '../receipts/filter';
import { cut, PAGE_SIZE, type CountAndAmount, type Cursor, type Page } from '../lists/page';
import type { Reading } from '../store';

export const lineFilter = z.object({
  state: z.enum(['to-explain', 'matched', 'all']).default('to-explain'),
  certainty: z.enum(['proven', 'probable', 'open', 'none']).optional(),
  /** Any part of the bank's text, the counterparty or the reference. */
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
  readonly certainty: Certainty | null;
  /** What is laid on its sheet, in words; empty where nothing is. */
  readonly laid: string;
}

export const CERTAINTIES: readonly Certainty[] = ['proven', 'probable', 'open', 'none'];

const LAID = sql<string>`coalesce((
  SELECT 'Payout ' || p.external_id FROM payout p WHERE p.id = json_extract(q.parts, '$[0].id')), '')`;

const MATCHED = sql<string>`coalesce((
  SELECT CASE m.kind
      WHEN 'payout' THEN 'Payout ' || (SELECT external_id FROM payout WHERE id = m.ref_id)
      WHEN 'receipt' THEN 'Receipt ' || (SELECT external_id FROM receipt WHERE id = m.ref_id)
      ELSE 'Invoice ' || (SELECT number FROM invoice WHERE id = m.ref_id) END
    || CASE WHEN (SELECT count(*) FROM match_part n WHERE n.match_id = m.match_id) > 1
       THEN ' and ' || ((SELECT count(*) FROM match_part n WHERE n.match_id = m.match_id) - 1) || ' more' ELSE '' END
  FROM match_part m WHERE m.match_id = l.match_id AND m.part_no = 1),
  (SELECT 'Booked to ' || a.name FROM match x JOIN account a ON a.id = x.rest_account_id WHERE x.id = l.match_id), '')`;

function condition(filter: LineFilter) {
  const state =
    filter.state === 'all'
      ? sql`1`
      : filter.state === 'matched'
        ? sql`l.match_id IS NOT NULL`
        : sql`l.match_id IS NULL`;
  const certainty = filter.certainty ? sql`q.certainty = ${filter.certainty}` : sql`1`;
  if (!filter.text) return sql`${state} AND ${certainty}`;
  const like = containing(filter.text);
  return sql`${state} AND ${certainty} AND (l.text LIKE ${like} ESCAPE '\\' OR l.counterparty LIKE ${like} ESCAPE '\\'
    OR l.reference LIKE ${like} ESCAPE '\\')`;
}

/** Lines after a cursor, newest first. */
export async function lineRows(
  db: Reading,
  filter: LineFilter,
  after: Cursor | null,
  limit: number,
): Promise<LineListRow[]> {
  // Lines to explain are looked up by way of their proposals: there are few of them, however many are matched.
  const open = filter.state === 'to-explain';
  const from = open
    ? sql`proposal q JOIN statement_line l ON l.id = q.statement_line_id`
    : sql`statement_line l LEFT JOIN proposal q ON q.statement_line_id = l.id`;
  const [date, id] = open ? [sql`q.book_date`, sql`q.statement_line_id`] : [sql`l.book_date`, sql`l.id`];
  const { rows } = await sql<LineListRow>`
    SELECT l.id, l.book_date AS date, l.text, l.counterparty, l.reference, l.amount, l.match_id AS match,
           q.certainty, CASE WHEN l.match_id IS NULL THEN ${LAID} ELSE ${MATCHED} END AS laid
    FROM ${from}
    WHERE ${condition(filter)} AND ${after ? sql`(${date}, ${id}) < (${after.date}, ${after.id})` : sql`1`}
    ORDER BY ${date} DESC, ${id} DESC LIMIT ${limit}
  `.execute(db);
  return rows;
}

/** One page of statement lines, newest first, with the totals of the filter. */
export async function listLines(
  db: Reading,
  filter: LineFilter,
  after: Cursor | null,
): Promise<Page<LineListRow, CountAndAmount>> {
  const rows = await lineRows(db, filter, after, PAGE_SIZE + 1);
  const from =
    filter.certainty === undefined
      ? sql`statement_line l`
      : sql`statement_line l LEFT JOIN proposal q ON q.statement_line_id = l.id`;
  const { rows: totals } = await sql<CountAndAmount>`
    SELECT count(*) AS count, coalesce(sum(l.amount), 0) AS amount FROM ${from} WHERE ${condition(filter)}
  `.execute(db);
  return { ...cut(rows), totals: totals[0]! };
}

export type CertaintyGroups = Readonly<Record<Certainty, CountAndAmount>>;

/** How many lines wait in each group of certainty, and what they come to. */
export async function certaintyGroups(db: Reading): Promise<CertaintyGroups> {
  const { rows } = await sql<CountAndAmount & { certainty: Certainty }>`
    SELECT certainty, count(*) AS count, sum(amount) AS amount FROM proposal GROUP BY certainty
  `.execute(db);
  const nothing: CountAndAmount = { count: 0, amount: 0 as Minor };
  const of = (certainty: Certainty) => rows.find((row) => row.certainty === certainty) ?? nothing;
  return { proven: of('proven'), probable: of('probable'), open: of('open'), none: of('none') };
}

/** All lines that are proven now, for confirming them in one go. */
export async function provenLines(db: Reading): Promise<{ id: number; amount: Minor }[]> {
  return db
    .selectFrom('proposal')
    .select(['statement_line_id as id', 'amount'])
    .where('certainty', '=', 'proven')
    .orderBy('book_date')
    .orderBy('statement_line_id')
    .limit(20_000)
    .execute();
}

export async function countMatched(db: Reading): Promise<number> {
  const { n } = await db
    .selectFrom('match_line')
    .select((e) => e.fn.countAll<number>().as('n'))
    .where('live', '=', 1)
    .executeTakeFirstOrThrow();
  return n;
}
