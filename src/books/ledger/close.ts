import { z } from 'zod';
import { plainDateInput } from '../command/plain-date-input';
import { formatDate, type PlainDate } from '@/core/calendar';
import { done, refuse, type Command } from '../command';
import { todayOf } from '../setup/today';

/** Sets the date through which nothing can be posted any more; null or an earlier date opens days again. */
export const closeThrough: Command<{ date: PlainDate | null; reopen: boolean }, { closedThrough: PlainDate | null }> = {
  name: 'close-through',
  input: z.object({ date: plainDateInput.nullable(), reopen: z.boolean() }),
  async run({ db }, { date, reopen }, { now }) {
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const before = books.closed_through;
    const today = todayOf(books, now);
    if (date !== null && date >= today) return refuse({ code: 'close-ahead', date, today });
    if (!reopen && before !== null && (date === null || date <= before)) {
      return refuse({ code: 'close-backwards', date: date ?? before, closedThrough: before });
    }
    await db.updateTable('books').set({ closed_through: date }).execute();
    return done(
      { closedThrough: date },
      date === null ? 'Opened all days again' : `Closed through ${formatDate(date)}`,
      {
        command: 'close-through',
        input: { date: before, reopen: true },
        label: before === null ? 'open all days again' : `close through ${formatDate(before)} again`,
      },
    );
  },
};
