import { z } from 'zod';
import { formatDate, type PlainDate } from '@/core/calendar';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';

/** Turns the day of demo books on. Books that go by the clock have no day to turn. */
export const turnDay: Command<{ day: PlainDate }, null> = {
  name: 'turn-day',
  input: z.object({ day: plainDateInput }),
  async run({ db }, { day }) {
    const { fixed_today: today } = await db.selectFrom('books').select('fixed_today').executeTakeFirstOrThrow();
    if (today === null)
      return refuse({ code: 'invalid-input', field: 'day', expected: 'books whose day is their own' });
    if (day <= today)
      return refuse({ code: 'invalid-input', field: 'day', expected: `a day after ${formatDate(today)}` });
    await db.updateTable('books').set({ fixed_today: day }).execute();
    return done(null, `It is ${formatDate(day)} in these books`);
  },
};
