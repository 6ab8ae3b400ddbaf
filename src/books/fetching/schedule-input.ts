import { z } from 'zod';

/** When a connection is fetched: only by hand, or each day, week or month at a time of the books' own zone. */
export const schedule = z
  .object({
    every: z.enum(['hand', 'day', 'week', 'month']),
    /** HH:MM. */
    at: z.string().regex(/^([01]\d|2[0-3]):[0-5]\d$/, 'a time like 06:30'),
    /** 1 is Monday, 7 is Sunday; asked where it is each week. */
    weekday: z.number().int().min(1).max(7),
    /** 1 to 28, or 0 for the last day; asked where it is each month. */
    monthday: z.number().int().min(0).max(28),
    /** Also whenever the channel says by an event that something changed. */
    onEvents: z.boolean(),
  })
  .strict();
export type Schedule = z.infer<typeof schedule>;

export const BY_HAND: Schedule = { every: 'hand', at: '06:30', weekday: 1, monthday: 1, onEvents: false };

export const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'] as const;

/** The schedule in words: “each Monday at 06:30, and when the channel says so”. */
export function scheduleWords({ every, at, weekday, monthday, onEvents }: Schedule): string {
  const when = {
    hand: 'by hand',
    day: `each day at ${at}`,
    week: `each ${WEEKDAYS[weekday - 1]} at ${at}`,
    month: monthday === 0 ? `on the last day of each month at ${at}` : `on day ${monthday} of each month at ${at}`,
  }[every];
  return onEvents ? `${when}, and when the channel says that something changed` : when;
}
