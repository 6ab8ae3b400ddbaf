import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { ZERO, type Currency, type Minor } from '@/core/money';
import { cut, PAGE_SIZE, type Cursor, type Page } from '../lists/page';
import type { Reading } from '../store';
import { DOUBLED_AT } from '../doubled/list';
import { TOTAL_FEE } from './total-fee';

/**
 * Which payouts are shown: not banked yet, of those the ones that are late or that a statement line waits to be
 * confirmed with, banked, or not adding up.
 */
export const payoutFilter = z.object({ state: z.enum(['in-transit', 'late', 'seen', 'banked', 'differs']).optional() });
export type PayoutFilter = z.infer<typeof payoutFilter>;

export interface PayoutListRow {
  readonly id: number;
  readonly name: string;
  /** The day it left the channel. */
  readonly date: PlainDate;
  readonly expected: PlainDate;
  /** The day it reached the bank; null while no statement line is confirmed with it. */
  readonly banked: PlainDate | null;
  /** A statement line that is not confirmed yet names it. */
  readonly seen: 0 | 1;
  readonly receipts: number;
  /** Receipts of it that are not in the ledger yet. */
  readonly notPosted: number;
  /** Minor units. */
  readonly gross: Minor;
  readonly fee: Minor;
  readonly net: Minor;
  /** What these are in. */
  readonly currency: Currency;
  /** What its receipts come to less its net: 0 where it adds up. */
  readonly difference: Minor;
}

export interface PayoutTotals {
  readonly count: number;
  /** Of those in the books' own currency. */
  readonly net: Minor;
  readonly others: readonly { readonly currency: Currency; readonly net: Minor }[];
}

/** A statement line names it as what it is, or could be, made of: it has arrived, only nobody has confirmed it yet, or it is booked there as income. */
export const SEEN_AT_BANK = sql<
  0 | 1
>`(EXISTS (SELECT 1 FROM proposal_part x WHERE x.kind = 'payout' AND x.ref_id = p.id) OR ${DOUBLED_AT} IS NOT NULL)`;

const DIFFERENCE = sql<Minor>`(p.receipt_gross - p.receipt_fee - p.net - ${TOTAL_FEE})`;

function condition(filter: PayoutFilter, today: PlainDate) {
  switch (filter.state) {
    case 'in-transit':
      return sql`p.match_id IS NULL`;
    case 'late':
      return sql`p.match_id IS NULL AND p.expected_on < ${today} AND NOT ${SEEN_AT_BANK}`;
    case 'seen':
      return sql`p.match_id IS NULL AND ${SEEN_AT_BANK}`;
    case 'banked':
      return sql`p.match_id IS NOT NULL`;
    case 'differs':
      return sql`${DIFFERENCE} <> 0`;
    default:
      return sql`1`;
  }
}

const COLUMNS = sql`
  p.id, p.external_id AS name, p.currency, p.book_date AS date, p.expected_on AS expected,
  (SELECT l.book_date FROM match_line m JOIN statement_line l ON l.id = m.statement_line_id
   WHERE m.match_id = p.match_id AND m.live = 1) AS banked,
  p.match_id IS NULL AND ${SEEN_AT_BANK} AS seen, p.receipt_count AS receipts,
  (SELECT count(*) FROM receipt r WHERE r.payout_id = p.id AND r.journal_id IS NULL AND r.aside IS NULL) AS notPosted,
  p.receipt_gross AS gross, p.receipt_fee + ${TOTAL_FEE} AS fee, p.net, ${DIFFERENCE} AS difference`;

export async function payoutRows(
  db: Reading,
  filter: PayoutFilter,
  today: PlainDate,
  after: Cursor | null,
  limit: number,
): Promise<PayoutListRow[]> {
  const { rows } = await sql<PayoutListRow>`
    SELECT ${COLUMNS} FROM payout p
    WHERE ${condition(filter, today)} AND ${after ? sql`(p.book_date, p.id) < (${after.date}, ${after.id})` : sql`1`}
    ORDER BY p.book_date DESC, p.id DESC LIMIT ${limit}
  `.execute(db);
  return rows;
}

/** One page of payouts, newest first, with the totals of the filter. */
export async function listPayouts(
  db: Reading,
  filter: PayoutFilter,
  today: PlainDate,
  after: Cursor | null,
): Promise<Page<PayoutListRow, PayoutTotals>> {
  const rows = await payoutRows(db, filter, today, after, PAGE_SIZE + 1);
  const { currency: own } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const { rows: sums } = await sql<{ currency: Currency; count: number; net: Minor }>`
    SELECT p.currency, count(*) AS count, coalesce(sum(p.net), 0) AS net FROM payout p
    WHERE ${condition(filter, today)} GROUP BY p.currency ORDER BY p.currency
  `.execute(db);
  const totals = {
    count: sums.reduce((n, sum) => n + sum.count, 0),
    net: sums.find(({ currency }) => currency === own)?.net ?? ZERO,
    others: sums.filter(({ currency }) => currency !== own).map(({ currency, net }) => ({ currency, net })),
  };
  return { ...cut(rows), totals };
}

export interface PayoutReceipt {
  readonly id: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly about: string;
  readonly gross: Minor;
  readonly fee: Minor | null;
  readonly journal: number | null;
}

export interface PayoutDetail extends PayoutListRow {
  readonly channel: string;
  /** The statement line it was matched to. */
  readonly line: number | null;
  /** The statement line that is booked as income though this payout explains it. */
  readonly doubledAt: number | null;
  readonly contents: readonly PayoutReceipt[];
}

/** Receipts of one payout that are listed with it; the rest is counted. */
export const CONTENTS_LISTED = 200;

export async function payoutDetail(db: Reading, id: number): Promise<PayoutDetail | null> {
  const { rows } = await sql<PayoutListRow & Pick<PayoutDetail, 'channel' | 'line' | 'doubledAt'>>`
    SELECT ${COLUMNS}, c.name AS channel,
      (SELECT m.statement_line_id FROM match_line m WHERE m.match_id = p.match_id AND m.live = 1) AS line,
      ${DOUBLED_AT} AS doubledAt
    FROM payout p JOIN channel c ON c.id = p.channel_id WHERE p.id = ${id}
  `.execute(db);
  if (!rows[0]) return null;
  const contents = await sql<PayoutReceipt>`
    SELECT r.id, r.external_id AS name, r.book_date AS date, y.name AS payer,
           CASE WHEN r.kind = 'refund' THEN 'refund of ' || coalesce(nullif(r.document, ''), nullif(r.refund_of, ''), 'a sale')
                WHEN r.document <> '' THEN 'invoice ' || r.document
                WHEN r.fund <> '' THEN 'fund ' || r.fund
                ELSE coalesce(i.name, nullif(r.note, ''), 'paid sale') END AS about,
           r.gross, r.fee, r.journal_id AS journal
    FROM receipt r LEFT JOIN payer y ON y.id = r.payer_id LEFT JOIN item i ON i.id = r.item_id
    WHERE r.payout_id = ${id} ORDER BY r.occurred_at, r.id LIMIT ${CONTENTS_LISTED}
  `.execute(db);
  return { ...rows[0], contents: contents.rows };
}

export interface ExpectedDay {
  readonly day: PlainDate;
  readonly net: Minor;
  readonly count: number;
}

/** What is on its way and on no statement yet, by the day it is expected at the bank; earliest first. */
export async function expectedArrivals(db: Reading): Promise<ExpectedDay[]> {
  const { rows } = await sql<ExpectedDay>`
    SELECT expected_on AS day, count(*) AS count,
      sum(CASE WHEN p.currency = (SELECT currency FROM books) THEN p.net
        ELSE (SELECT coalesce(sum(r.carried), 0) FROM receipt r WHERE r.payout_id = p.id) END) AS net
    FROM payout p
    WHERE match_id IS NULL AND NOT ${SEEN_AT_BANK} GROUP BY expected_on ORDER BY expected_on
  `.execute(db);
  return rows;
}
