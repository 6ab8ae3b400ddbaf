import { sql } from 'kysely';
import { z } from 'zod';
import { localMinutes } from '@/core/calendar';
import { cutWords, learnCut, type Boundary, type LearntCut } from '@/core/channels';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';

/** When a channel cuts its day, as the receipts of its payouts have it. */
export interface LearntDayCut {
  readonly channel: number;
  readonly name: string;
  /** Minutes after midnight that are set. */
  readonly set: number;
  /** Null where nothing tells it, and it was set all the same. */
  readonly learnt: LearntCut | null;
}

/** Payouts of a channel that are looked at, the newest. */
const MOST = 200;

/** The day cuts of channels whose payouts say which receipts they carry, or that were set. */
export async function learntCuts(db: Reading): Promise<LearntDayCut[]> {
  const { zone } = await db.selectFrom('books').select('zone').executeTakeFirstOrThrow();
  const minuteOf = localMinutes(zone);
  const channels = await db
    .selectFrom('channel')
    .select(['id', 'name', 'day_cut', 'learns_from'])
    .orderBy('id')
    .execute();
  const found: LearntDayCut[] = [];
  for (const { id, name, day_cut: set, learns_from: after } of channels) {
    const { rows } = await sql<{ first: string; last: string }>`
      SELECT min(r.occurred_at) AS first, max(r.occurred_at) AS last
      FROM (SELECT id FROM payout WHERE channel_id = ${id} AND book_date > ${after ?? ''} ORDER BY book_date DESC, id DESC LIMIT ${MOST}) p
      JOIN receipt r ON r.payout_id = p.id AND r.kind = 'receipt' GROUP BY p.id ORDER BY first
    `.execute(db);
    const boundaries = rows.slice(1).flatMap(({ first }, index): Boundary[] => {
      const [last, next] = [minuteOf(new Date(rows[index]!.last)), minuteOf(new Date(first))];
      return last < next ? [{ last, next }] : [];
    });
    const learnt = learnCut(boundaries, set);
    if (learnt || set !== 0) found.push({ channel: id, name, set, learnt });
  }
  return found;
}

/** Sets when a channel's day is cut: what comes before it is of the day before, where days are put together. */
export const setDayCut: Command<{ channel: number; minute: number }, null> = {
  name: 'set-day-cut',
  input: z.object({ channel: z.number().int(), minute: z.number().int().min(0).max(1439) }),
  async run({ db }, { channel, minute }) {
    const row = await db.selectFrom('channel').select(['name', 'day_cut']).where('id', '=', channel).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'channel', id: String(channel) });
    if (row.day_cut === minute) return done(null, null);
    await db.updateTable('channel').set({ day_cut: minute }).where('id', '=', channel).execute();
    return done(null, `The day of ${row.name} is cut at ${cutWords(minute)}`, {
      command: 'set-day-cut',
      input: { channel, minute: row.day_cut },
      label: `cut it at ${cutWords(row.day_cut)} again`,
    });
  },
};
