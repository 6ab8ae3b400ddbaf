import { z } from 'zod';
import { formatDate, type PlainDate } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import type { BasisPoints, Minor } from '@/core/money';
import { done, refuse, type Command, type Undo } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { askAgain } from '../matching/ask-again';
import { learnFeeSteps } from '../matching/learn-fee-steps';

export interface FeeStepInput {
  readonly channel: number;
  readonly since: PlainDate;
  /** Basis points and minor units; null takes the step away. */
  readonly schedule: { readonly rate: number; readonly fixed: number } | null;
}

/**
 * Agrees what a channel takes from a day on, or takes that back. What is confirmed stays as it was confirmed; what is not goes
 * by it. Refuses a channel that is not there, and to take back what nobody agreed to.
 */
export const setFeeStep: Command<FeeStepInput, null> = {
  name: 'set-fee-step',
  input: z.object({
    channel: z.number().int(),
    since: plainDateInput,
    schedule: z.object({ rate: z.number().int().min(0).max(10_000), fixed: z.number().int().min(0) }).nullable(),
  }),
  async run(tx, { channel, since, schedule }, context) {
    const { db } = tx;
    const row = await db
      .selectFrom('channel')
      .select(['name', 'currency'])
      .where('id', '=', channel)
      .executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'channel', id: String(channel) });
    const here = db.selectFrom('fee_step').where('channel_id', '=', channel).where('since', '=', since);
    const before = await here.selectAll().executeTakeFirst();
    // What was learnt is no agreement: it is forgotten, or agreed otherwise.
    if (schedule === null && before?.learnt !== 0)
      return refuse({ code: 'not-found', what: 'change of fees', id: formatDate(since) });
    await db.deleteFrom('fee_step').where('channel_id', '=', channel).where('since', '=', since).execute();
    if (schedule !== null) {
      const [rate, fixed] = [schedule.rate as BasisPoints, schedule.fixed as Minor];
      await db.insertInto('fee_step').values({ channel_id: channel, since, rate, fixed, learnt: 0 }).execute();
    }
    await learnFeeSteps(tx, [channel]);
    await askAgain(tx, context);
    // What was learnt comes back by itself once nothing agreed stands in its way.
    const again = before?.learnt === 0 ? { rate: before.rate, fixed: before.fixed } : null;
    const undo: Undo = {
      command: 'set-fee-step',
      input: { channel, since, schedule: again },
      label: `set ${row.name} back`,
    };
    const takes =
      schedule === null
        ? 'what it did before'
        : scheduleWords({ rate: schedule.rate as BasisPoints, fixed: schedule.fixed as Minor }, row.currency);
    return done(null, `${row.name} takes ${takes} from ${formatDate(since)}`, undo);
  },
};
