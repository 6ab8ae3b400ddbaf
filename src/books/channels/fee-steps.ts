import { sql, type RawBuilder } from 'kysely';
import { FeeSteps, type FeeStep } from '@/core/channels';
import type { Currency } from '@/core/money';
import type { Reading } from '../store';

/** Which steps count: what the books go by, or only what somebody agreed to. */
export type StepsOf = 'in-force' | 'agreed';

/** What each channel takes, day by day. */
export async function feeStepsOf(db: Reading, of: StepsOf = 'in-force'): Promise<ReadonlyMap<number, FeeSteps>> {
  const channels = await db.selectFrom('channel').select(['id', 'fee_rate as rate', 'fee_fixed as fixed']).execute();
  const rows = await db.selectFrom('fee_step').selectAll().execute();
  const steps = rows.filter(({ learnt }) => of === 'in-force' || learnt === 0);
  return new Map(
    channels.map(({ id, rate, fixed }) => {
      const own = steps.filter(({ channel_id }) => channel_id === id);
      const step = (row: (typeof own)[number]): FeeStep => ({
        since: row.since,
        schedule: { rate: row.rate, fixed: row.fixed },
        learnt: row.learnt === 1,
      });
      return [id, new FeeSteps({ rate, fixed }, own.map(step))];
    }),
  );
}

/** Whether a channel `c` was never said to take anything. */
export const NO_SCHEDULE = sql`(c.fee_rate = 0 AND c.fee_fixed = 0 AND NOT EXISTS (SELECT 1 FROM fee_step s WHERE s.channel_id = c.id))`;

/** The agreed fee of a receipt `r` of a channel `c` on its day, as core/channels rounds it: half away from zero. */
const agreed = (column: 'rate' | 'fixed') => sql`coalesce((SELECT ${sql.ref(`s.${column}`)} FROM fee_step s
  WHERE s.channel_id = c.id AND s.learnt = 0 AND s.since <= r.book_date ORDER BY s.since DESC LIMIT 1), ${sql.ref(`c.fee_${column}`)})`;
export const BY_SCHEDULE = sql`(((r.gross - r.not_held) * ${agreed('rate')} * 2 + 10000) / 20000 + ${agreed('fixed')})`;

/** The agreed fee of those of several receipts `r` together, with the share rounded once over their sum, as some channels do. */
export const byScheduleAtOnce = (those: RawBuilder<unknown>) => sql`(
  (coalesce(sum((r.gross - r.not_held) * ${agreed('rate')}) FILTER (WHERE ${those}), 0) * 2 + 10000) / 20000
  + coalesce(sum(${agreed('fixed')}) FILTER (WHERE ${those}), 0))`;

/** A step of a channel as somebody sees it. */
export interface ShownStep extends FeeStep {
  readonly channel: number;
  readonly name: string;
  readonly currency: Currency;
  /** Of what was learnt: how many sums fit it to the cent, of how many; 0 of 0 where it was agreed. */
  readonly fit: number;
  readonly of: number;
}

/** The changes of what channels take, the newest of each channel first. */
export async function listFeeSteps(db: Reading): Promise<ShownStep[]> {
  const rows = await db
    .selectFrom('fee_step')
    .innerJoin('channel', 'channel.id', 'fee_step.channel_id')
    .selectAll('fee_step')
    .select(['channel.name', 'channel.currency'])
    .orderBy('channel_id')
    .orderBy('since', 'desc')
    .execute();
  return rows.map(({ channel_id: channel, name, currency, since, rate, fixed, learnt, fit, looked_at: of }) => ({
    channel,
    name,
    currency,
    since,
    schedule: { rate, fixed },
    learnt: learnt === 1,
    fit,
    of,
  }));
}
