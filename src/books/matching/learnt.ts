import { sql } from 'kysely';
import { z } from 'zod';
import { workingCalendar } from '@/adapters/holidays';
import { workingDaysBetween, type PlainDate } from '@/core/calendar';
import { channelAsEdit, editChannel } from '../channels/edit-channel';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';
import { askAgain } from './ask-again';
import { learnFeeSteps } from './learn-fee-steps';

/** How long a channel's payouts took, as its confirmed matches have it. */
export interface LearntLag {
  readonly channel: number;
  readonly name: string;
  /** Working days that are set as usual. */
  readonly set: number;
  /** Working days by how often; most often first. */
  readonly lags: readonly { readonly days: number; readonly count: number }[];
  readonly of: number;
  /** What was most often, where that is not what is set and is clear enough; null else. */
  readonly better: number | null;
}

const MOST = 5_000;
const FEWEST = 5;
/** A day is the usual one where this share of all took it. */
const CLEAR = 0.6;

/** How long payouts took, of confirmed matches alone; the newest of each channel. */
export async function learntLags(db: Reading): Promise<LearntLag[]> {
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  const { rows } = await sql<{ channel: number; name: string; set: number; left: PlainDate; at: PlainDate }>`
    SELECT c.id AS channel, c.name, c.payout_days AS "set", p.book_date AS "left", l.book_date AS at
    FROM channel c JOIN payout p ON p.channel_id = c.id AND p.match_id IS NOT NULL
    JOIN match_line m ON m.match_id = p.match_id AND m.live = 1 JOIN statement_line l ON l.id = m.statement_line_id
    WHERE c.learns_from IS NULL OR l.book_date > c.learns_from
    ORDER BY c.id, l.book_date DESC LIMIT ${MOST}
  `.execute(db);
  const found = new Map<number, { name: string; set: number; lags: Map<number, number> }>();
  for (const { channel, name, set, left, at } of rows) {
    const of = found.get(channel) ?? { name, set, lags: new Map<number, number>() };
    found.set(channel, of);
    const days = workingDaysBetween(left, at, calendar);
    of.lags.set(days, (of.lags.get(days) ?? 0) + 1);
  }
  return [...found].map(([channel, { name, set, lags }]) => {
    const sorted = [...lags]
      .map(([days, count]) => ({ days, count }))
      .sort((a, b) => b.count - a.count || a.days - b.days);
    const of = sorted.reduce((sum, { count }) => sum + count, 0);
    const most = sorted[0]!;
    const clear = of >= FEWEST && most.count >= of * CLEAR && most.days >= 0;
    return { channel, name, set, lags: sorted, of, better: clear && most.days !== set ? most.days : null };
  });
}

/** Takes what was learnt of a channel's lag over as its usual one: payouts on their way are expected by it. */
export const useLearntLag: Command<{ channel: number; days: number }, null> = {
  name: 'use-learnt-lag',
  input: z.object({ channel: z.number().int(), days: z.number().int().min(0).max(60) }),
  async run(tx, { channel, days }, context) {
    const settings = await channelAsEdit(tx.db, channel);
    if (!settings) return refuse({ code: 'not-found', what: 'channel', id: String(channel) });
    return editChannel.run(tx, { channel, settings: { ...settings, payoutDays: days } }, context);
  },
};

/** Forgets what was learnt of a channel up to a day: only what is confirmed for later days teaches again. Null remembers all. */
export const forgetLearnt: Command<{ channel: number; upTo: PlainDate | null }, null> = {
  name: 'forget-learnt',
  input: z.object({
    channel: z.number().int(),
    upTo: (z.string().regex(/^\d{4}-\d{2}-\d{2}$/) as unknown as z.ZodType<PlainDate>).nullable(),
  }),
  async run(tx, { channel, upTo }, context) {
    const { db } = tx;
    const { rows } = await sql<{ name: string; before: PlainDate | null }>`
      SELECT name, learns_from AS before FROM channel WHERE id = ${channel}
    `.execute(db);
    const row = rows[0];
    if (!row) return refuse({ code: 'not-found', what: 'channel', id: String(channel) });
    if (row.before === upTo) return done(null, null);
    await sql`UPDATE channel SET learns_from = ${upTo} WHERE id = ${channel}`.execute(db);
    if (await learnFeeSteps(tx, [channel])) await askAgain(tx, context);
    const what = upTo === null ? `Remembered all that ${row.name} taught` : `Forgot what ${row.name} taught`;
    return done(null, what, {
      command: 'forget-learnt',
      input: { channel, upTo: row.before },
      label: upTo === null ? 'forget it again' : 'remember it',
    });
  },
};
