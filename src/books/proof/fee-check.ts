import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { learnFees, type FeeSchedule, type LearntFees } from '@/core/channels';
import type { Currency, Minor } from '@/core/money';
import { BY_SCHEDULE, feeStepsOf, NO_SCHEDULE } from '../channels/fee-steps';
import { TOTAL_FEE } from '../payouts/total-fee';
import type { Reading } from '../store';

/** What a channel charged otherwise than its schedule says. Amounts in the channel's currency, minor units. */
export interface FeeCheck {
  readonly channel: number;
  readonly name: string;
  readonly currency: Currency;
  /** What was agreed last. */
  readonly schedule: FeeSchedule;
  /** Since when, where it was agreed otherwise before. */
  readonly agreedSince: PlainDate | null;
  /** Receipts whose fee the channel gave. */
  readonly charged: number;
  /** Of these: how many otherwise than by the schedule, by how much in all, the first and the last day of it. */
  readonly otherwise: number;
  readonly difference: Minor;
  readonly since: PlainDate | null;
  readonly last: PlainDate | null;
  /** Deposits confirmed with another fee than the schedule's, because none was given: by how much in all. */
  readonly deposits: { readonly count: number; readonly difference: Minor };
  /** Payouts that tell a fee in their totals alone, other than the schedule's over their receipts: by how much in all. */
  readonly payouts: { readonly count: number; readonly difference: Minor };
  /** Of those charged otherwise, how many lie before the day since when it is so: single ones. */
  readonly before: number;
  /** The schedule that what was charged since then fits; null where there is too little, or it is the one that is set. */
  readonly learnt: LearntFees | null;
}

/** After any change that was agreed. */
const LATEST = '9999-12-31' as PlainDate;

const CHARGED = sql`r.kind = 'receipt' AND r.fee IS NOT NULL AND r.gross > r.not_held AND r.aside IS NULL`;

/** Each channel that has a schedule or whose fees are known, with what it charged otherwise. */
export async function feeChecks(db: Reading): Promise<FeeCheck[]> {
  const { rows } = await sql<
    Omit<FeeCheck, 'since' | 'schedule' | 'agreedSince' | 'deposits' | 'payouts' | 'before' | 'learnt'>
  >`
    SELECT c.id AS channel, c.name, c.currency, count(r.id) AS charged,
      coalesce(sum(r.fee <> ${BY_SCHEDULE}), 0) AS otherwise, coalesce(sum(r.fee - ${BY_SCHEDULE}), 0) AS difference,
      max(CASE WHEN r.fee <> ${BY_SCHEDULE} THEN r.book_date END) AS last
    FROM channel c LEFT JOIN receipt r ON r.channel_id = c.id AND ${CHARGED}
    GROUP BY c.id ORDER BY c.id
  `.execute(db);
  const { rows: deposits } = await sql<{ channel: number; count: number; difference: Minor }>`
    SELECT channel, count(*) AS count, sum(charged - agreed) AS difference FROM (
      SELECT c.id AS channel, sum(p.fee) - CASE WHEN m.rest_account_id = c.fee_account_id THEN m.rest ELSE 0 END AS charged,
        sum(CASE WHEN r.fee IS NULL AND r.gross > r.not_held THEN ${BY_SCHEDULE} ELSE coalesce(r.fee, 0) END) AS agreed
      FROM match m JOIN match_part p ON p.match_id = m.id AND p.kind = 'receipt' AND p.live = 1
      JOIN receipt r ON r.id = p.ref_id JOIN channel c ON c.id = r.channel_id
      WHERE m.undone_at IS NULL GROUP BY m.id, c.id)
    WHERE charged <> agreed GROUP BY channel
  `.execute(db);
  const { rows: payouts } = await sql<{ channel: number; count: number; difference: Minor }>`
    SELECT channel, count(*) AS count, sum(charged - agreed) AS difference FROM (
      SELECT p.channel_id AS channel, ${TOTAL_FEE} AS charged,
        (SELECT sum(${BY_SCHEDULE}) FROM receipt r WHERE r.payout_id = p.id AND r.fee IS NULL AND r.kind = 'receipt') AS agreed
      FROM payout p JOIN channel c ON c.id = p.channel_id WHERE p.unstated > 0 AND NOT ${NO_SCHEDULE})
    WHERE charged > 0 AND charged <> agreed GROUP BY channel
  `.execute(db);
  const takes = await feeStepsOf(db, 'agreed');
  const checks: FeeCheck[] = [];
  for (const row of rows) {
    const agreed = takes.get(row.channel)!;
    const last = agreed.step(LATEST);
    const own = deposits.find(({ channel }) => channel === row.channel);
    const totals = payouts.find(({ channel }) => channel === row.channel);
    if (row.charged === 0 && !own && !totals) continue;
    const change = row.otherwise === 0 ? null : await changeOf(db, row.channel);
    const learnt = change === null ? null : await learntSince(db, row.channel, change.since);
    const schedule = agreed.on(LATEST);
    const same = learnt?.schedule.rate === schedule.rate && learnt.schedule.fixed === schedule.fixed;
    checks.push({
      ...row,
      since: change?.since ?? null,
      before: change?.before ?? 0,
      schedule,
      agreedSince: last?.since ?? null,
      payouts: { count: totals?.count ?? 0, difference: totals?.difference ?? (0 as Minor) },
      deposits: { count: own?.count ?? 0, difference: own?.difference ?? (0 as Minor) },
      learnt: same ? null : learnt,
    });
  }
  return checks;
}

/**
 * Since when a channel charges otherwise: the day that parts best what was as agreed from what was not. A single one long before
 * it is no beginning; where nothing parts them, it is the first of all.
 */
async function changeOf(db: Reading, channel: number): Promise<{ since: PlainDate; before: number }> {
  const { rows } = await sql<{ day: PlainDate; agreed: number; otherwise: number }>`
    SELECT r.book_date AS day, sum(r.fee = ${BY_SCHEDULE}) AS agreed, sum(r.fee <> ${BY_SCHEDULE}) AS otherwise
    FROM receipt r JOIN channel c ON c.id = r.channel_id WHERE r.channel_id = ${channel} AND ${CHARGED}
    GROUP BY r.book_date ORDER BY r.book_date
  `.execute(db);
  const days = rows.filter(({ otherwise }) => otherwise > 0);
  let wrong = rows.reduce((sum, { agreed }) => sum + agreed, 0);
  const never = rows.reduce((sum, { otherwise }) => sum + otherwise, 0);
  let best = { since: days[0]!.day, before: 0, wrong: Math.min(never, wrong) };
  let before = 0;
  for (const { day, agreed, otherwise } of rows) {
    // Begun on this day, all that was otherwise before it, and all as agreed from it on, is out of place.
    if (otherwise > 0 && before + wrong < best.wrong) best = { since: day, before, wrong: before + wrong };
    before += otherwise;
    wrong -= agreed;
  }
  return { since: best.since, before: best.before };
}

/** What fits the receipts of a channel from a day on, but for what was forgotten of it. */
async function learntSince(db: Reading, channel: number, since: PlainDate): Promise<LearntFees | null> {
  const { rows } = await sql<{ gross: Minor; fee: Minor }>`
    SELECT r.gross - r.not_held AS gross, r.fee FROM receipt r JOIN channel c ON c.id = r.channel_id
    WHERE r.channel_id = ${channel} AND ${CHARGED} AND r.book_date >= ${since}
      AND r.book_date > coalesce(c.learns_from, '') ORDER BY r.book_date DESC, r.id DESC LIMIT 2000
  `.execute(db);
  return learnFees(rows.reverse());
}

export interface OtherwiseCharged {
  readonly id: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly gross: Minor;
  readonly fee: Minor;
  readonly bySchedule: Minor;
}

const SHOWN = 100;

/** The receipts of a channel that were charged otherwise, the newest first. */
export async function otherwiseCharged(db: Reading, channel: number, most = SHOWN): Promise<OtherwiseCharged[]> {
  const { rows } = await sql<OtherwiseCharged>`
    SELECT r.id, r.external_id AS name, r.book_date AS date, y.name AS payer, r.gross - r.not_held AS gross, r.fee,
      ${BY_SCHEDULE} AS bySchedule
    FROM receipt r JOIN channel c ON c.id = r.channel_id LEFT JOIN payer y ON y.id = r.payer_id
    WHERE r.channel_id = ${channel} AND ${CHARGED} AND r.fee <> ${BY_SCHEDULE}
    ORDER BY r.book_date DESC, r.id DESC LIMIT ${most}
  `.execute(db);
  return rows;
}
