import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { learnFees, sinceWhen, type ChargedDay, type FeeSchedule, type LearntFees } from '@/core/channels';
import { ZERO, type Currency, type Minor } from '@/core/money';
import { BY_SCHEDULE, feeStepsOf } from '../channels/fee-steps';
import type { Reading } from '../store';
import { CHARGED, CHARGES, type ChargeKind } from './charges';

/** How many were charged, how many of them otherwise, by how much in all, and since when; null where none was. */
export interface ChargedSum {
  readonly of: number;
  readonly count: number;
  readonly difference: Minor;
  readonly since: PlainDate | null;
}

const NOTHING: ChargedSum = { of: 0, count: 0, difference: ZERO, since: null };

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
  readonly deposits: ChargedSum;
  /** Payouts that tell a fee in their totals alone, other than the schedule's over their receipts: by how much in all. */
  readonly payouts: ChargedSum;
  /** Of those charged otherwise, how many lie before the day since when it is so: single ones. */
  readonly before: number;
  /** The schedule that what was charged since then fits; null where there is too little, or it is the one that is set. */
  readonly learnt: LearntFees | null;
}

/** How many receipts, payouts and deposits a channel charged otherwise. */
export const otherwiseInAll = ({ otherwise, payouts, deposits }: FeeCheck): number =>
  otherwise + payouts.count + deposits.count;

/** After any change that was agreed. */
const LATEST = '9999-12-31' as PlainDate;

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
  const deposits = await sumsOf(db, 'deposit');
  const payouts = await sumsOf(db, 'payout');
  const takes = await feeStepsOf(db, 'agreed');
  const checks: FeeCheck[] = [];
  for (const row of rows) {
    const agreed = takes.get(row.channel)!;
    const last = agreed.step(LATEST);
    const own = deposits.get(row.channel);
    const totals = payouts.get(row.channel);
    if (row.charged === 0 && !own && !totals) continue;
    const change = row.otherwise === 0 ? null : sinceWhen(await chargedDays(db, 'receipt', row.channel));
    const learnt = change === null ? null : await learntSince(db, row.channel, change.since);
    const schedule = agreed.on(LATEST);
    const same = learnt?.schedule.rate === schedule.rate && learnt.schedule.fixed === schedule.fixed;
    checks.push({
      ...row,
      since: change?.since ?? null,
      before: change?.before ?? 0,
      schedule,
      agreedSince: last?.since ?? null,
      payouts: totals ?? NOTHING,
      deposits: own ?? NOTHING,
      learnt: same ? null : learnt,
    });
  }
  return checks;
}

/** Day by day, how much of a kind a channel charged as agreed and how much otherwise. */
async function chargedDays(db: Reading, kind: ChargeKind, channel: number): Promise<ChargedDay[]> {
  const { rows } = await sql<ChargedDay>`
    SELECT date AS day, sum(charged = agreed) AS agreed, sum(charged <> agreed) AS otherwise
    FROM (${CHARGES[kind]}) WHERE channel = ${channel} GROUP BY date ORDER BY date
  `.execute(db);
  return rows;
}

/** What payouts or deposits of each channel were charged. */
async function sumsOf(db: Reading, kind: 'payout' | 'deposit'): Promise<ReadonlyMap<number, ChargedSum>> {
  const { rows } = await sql<Omit<ChargedSum, 'since'> & { channel: number }>`
    SELECT channel, count(*) AS "of", sum(charged <> agreed) AS count, sum(charged - agreed) AS difference
    FROM (${CHARGES[kind]}) GROUP BY channel
  `.execute(db);
  const sums = new Map<number, ChargedSum>();
  for (const { channel, ...sum } of rows) {
    const when = sum.count === 0 ? null : sinceWhen(await chargedDays(db, kind, channel));
    sums.set(channel, { ...sum, since: when?.since ?? null });
  }
  return sums;
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
