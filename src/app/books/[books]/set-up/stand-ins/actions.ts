'use server';

import { revalidatePath } from 'next/cache';
import { runCommand } from '@/books/command';
import { turnDay } from '@/books/setup/turn-day';
import { plainDate } from '@/core/calendar';
import { deliver } from '@/standins/card-desk/deliver';
import type { WorldDay } from '@/standins/world';
import { answer, type Answer } from '../../../../server/answer';
import { ACTOR, openBooks } from '../../../../server/books';
import { fetchDue, origin } from '../../../../server/fetching';
import { billAllDue } from '../../../../server/plans';
import { worlds } from '../../../../server/standins';

export interface DayTurned {
  readonly days: readonly WorldDay[];
  /** Events that the channels of these books took. */
  readonly events: number;
  /** Scheduled runs that had come due. */
  readonly runs: number;
}

/** Turns the simulated world and these books to the next working day; what then arrives, arrives as it would from outside. */
export async function turnDayNow(books: string, account: string): Promise<Answer<DayTurned>> {
  const before = worlds.find(account);
  if (!before)
    return { ok: false, code: 'not-found', what: `There is no world ${account}.`, next: 'Load the page again.' };
  const result = await runCommand(openBooks(books), turnDay, { day: plainDate(before.tomorrow) }, { actor: ACTOR });
  if (!result.ok) return answer(result);
  const world = worlds.turn(account)!;
  const channels = await openBooks(books)
    .reader.selectFrom('connection')
    .select('channel_id')
    .where('address', '=', `/standins/${account}/desk`)
    .where('channel_id', 'is not', null)
    .execute();
  let events = 0;
  for (const { channel_id: channel } of channels) {
    events += await deliver(world, `${origin()}/api/books/${books}/channels/${channel}/events`);
  }
  await billAllDue();
  const runs = await fetchDue(books);
  revalidatePath(`/books/${books}`, 'layout');
  const days = world.days.filter(({ day }) => day > before.day);
  return { ok: true, value: { days, events, runs }, change: result.change };
}
