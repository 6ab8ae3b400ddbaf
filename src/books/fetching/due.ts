import { clockOf } from '../setup/today';
import type { BooksFile } from '../store';
import { nextRun } from './schedule';
import { schedule } from './schedule-input';

/**
 * The connections with a run due by now, each once however many it missed; they count as begun. Meant to be asked every
 * minute, and whenever the demo's day was turned.
 */
export async function takeDue(books: BooksFile, now: Date): Promise<number[]> {
  const settings = await books.reader.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const clock = clockOf(settings, now);
  const rows = await books.reader.selectFrom('connection').select(['id', 'schedule', 'scheduled_to']).execute();
  const due = rows.filter((row) => {
    const of = schedule.safeParse(JSON.parse(row.schedule));
    const next = of.success ? nextRun(of.data, settings.zone, new Date(row.scheduled_to)) : null;
    return next !== null && next <= clock;
  });
  if (due.length === 0) return [];
  const ids = due.map(({ id }) => id);
  await books.write(
    ({ db }) =>
      db.updateTable('connection').set({ scheduled_to: clock.toISOString() }).where('id', 'in', ids).execute(),
    () => true,
  );
  return ids;
}
