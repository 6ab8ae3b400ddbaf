import { sql } from 'kysely';
import { addDays, type PlainDate } from '@/core/calendar';
import { groupBy } from '@/core/group-by';
import { FeeSteps, learnSteps, type ChargedSum } from '@/core/channels';
import type { Minor } from '@/core/money';
import { TOTAL_FEE } from '../payouts/total-fee';
import type { Reading, Writing } from '../store';
import { feeStepsOf } from '../channels/fee-steps';

/** Payouts and confirmed deposits of a channel that are looked at, the newest. */
const MOST = 60;
/** Confirmed matches among which they are looked for. */
const MATCHES = 2_000;

interface Row {
  readonly sum: number;
  readonly fee: Minor;
  readonly day: PlainDate;
  readonly gross: Minor;
}

/** Payouts that tell in total what was taken of receipts that state no fee. */
async function payoutSums(db: Reading, channel: number, after: PlainDate): Promise<Row[]> {
  const { rows } = await sql<Row>`
    SELECT p.id AS sum, p.fee, r.book_date AS day, r.gross - r.not_held AS gross
    FROM (SELECT p.id, ${TOTAL_FEE} AS fee FROM payout p WHERE p.channel_id = ${channel} AND p.unstated > 0
      AND p.book_date >= ${after} ORDER BY p.book_date DESC, p.id DESC LIMIT ${MOST}) p
    JOIN receipt r ON r.payout_id = p.id AND r.fee IS NULL WHERE p.fee > 0 ORDER BY p.id, r.id
  `.execute(db);
  return rows;
}

/** Deposits that were confirmed as receipts which state no fee, and nothing else: what did not arrive is the fee. */
async function depositSums(db: Reading, channel: number): Promise<Row[]> {
  const { rows } = await sql<Row>`
    SELECT m.id AS sum, m.fee, r.book_date AS day, r.gross - r.not_held AS gross
    FROM (
      SELECT m.id, sum(p.fee) - CASE WHEN m.rest_account_id = c.fee_account_id THEN m.rest ELSE 0 END AS fee
      FROM (SELECT * FROM match WHERE undone_at IS NULL ORDER BY id DESC LIMIT ${MATCHES}) m
      JOIN channel c ON c.id = ${channel} AND (m.rest = 0 OR m.rest_account_id = c.fee_account_id)
      JOIN match_part p ON p.match_id = m.id AND p.live = 1
      LEFT JOIN receipt r ON p.kind = 'receipt' AND r.id = p.ref_id AND r.channel_id = c.id AND r.fee IS NULL
      GROUP BY m.id HAVING count(*) = count(r.id) ORDER BY m.id DESC LIMIT ${MOST}) m
    JOIN match_part p ON p.match_id = m.id JOIN receipt r ON r.id = p.ref_id ORDER BY m.id, p.part_no
  `.execute(db);
  return rows;
}

const sumsOf = (rows: readonly Row[]): ChargedSum[] =>
  [...groupBy(rows, ({ sum }) => sum).values()].map((receipts) => ({ receipts, fee: receipts[0]!.fee }));

/** The dawn of time, as far as books go. */
const ALWAYS = '0001-01-01' as PlainDate;

/**
 * Learns again since when these channels charge otherwise, of the newest sums that tell it: after the last change that somebody
 * agreed to, and after the day up to which they were told to forget. Channels without a schedule learn nothing: there, what is
 * missing is what their days usually lack.
 * @returns whether anything is otherwise than before.
 */
export async function learnFeeSteps(tx: Writing, channels: readonly number[]): Promise<boolean> {
  const { db } = tx;
  let changed = false;
  for (const channel of channels) {
    const row = await db.selectFrom('channel').selectAll().where('id', '=', channel).executeTakeFirst();
    const agreed = (await feeStepsOf(db, 'agreed')).get(channel);
    if (!row || !agreed || agreed.none) continue;
    const steps = await db
      .selectFrom('fee_step')
      .selectAll()
      .where('channel_id', '=', channel)
      .orderBy('since')
      .execute();
    const lastAgreed = steps.filter(({ learnt }) => learnt === 0).at(-1)?.since ?? ALWAYS;
    const forgotten = row.learns_from === null ? ALWAYS : addDays(row.learns_from, 1);
    const start = lastAgreed > forgotten ? lastAgreed : forgotten;
    const rows = [...sumsOf(await payoutSums(db, channel, start)), ...sumsOf(await depositSums(db, channel))];
    const firstDay = ({ receipts }: ChargedSum) => receipts.map(({ day }) => day).sort()[0]!;
    const sums = rows.filter((sum) => firstDay(sum) >= start);
    // Of more sums than are looked at, what older ones taught stays.
    const from = rows.length < MOST ? start : (sums.map(firstDay).sort()[0] ?? start);
    const kept = steps.filter(({ since, learnt }) => learnt === 0 || (since < from && since >= forgotten));
    const known = new FeeSteps(
      agreed.first,
      kept.map(({ since, rate, fixed, learnt }) => ({ since, schedule: { rate, fixed }, learnt: learnt === 1 })),
    );
    const learnt = learnSteps(sums, known.on(from)).filter(({ since }) => !kept.some((step) => step.since === since));
    const wanted = learnt.map(({ since, schedule, fit, of }) => ({
      channel_id: channel,
      since,
      ...schedule,
      learnt: 1 as const,
      fit,
      looked_at: of,
    }));
    const before = steps.filter((step) => !kept.includes(step));
    const key = (list: readonly { since: PlainDate; rate: number; fixed: number }[]) =>
      list.map(({ since, rate, fixed }) => `${since} ${rate} ${fixed}`).join();
    if (before.length > 0)
      await db
        .deleteFrom('fee_step')
        .where('channel_id', '=', channel)
        .where(
          'since',
          'in',
          before.map(({ since }) => since),
        )
        .execute();
    if (wanted.length > 0) await db.insertInto('fee_step').values(wanted).execute();
    changed ||= key(before) !== key(wanted);
  }
  return changed;
}

/** Channels whose receipts of these matches state no fee: what was taken of them is known now, or is not any more. */
export async function channelsTold(db: Reading, matches: readonly number[]): Promise<number[]> {
  const { rows } = await sql<{ channel: number }>`
    SELECT DISTINCT r.channel_id AS channel FROM json_each(${JSON.stringify(matches)}) t
    JOIN match_part p ON p.match_id = t.value AND p.kind = 'receipt' JOIN receipt r ON r.id = p.ref_id AND r.fee IS NULL
  `.execute(db);
  return rows.map(({ channel }) => channel);
}
