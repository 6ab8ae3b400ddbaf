import { bookDates, type PlainDate } from '@/core/calendar';

/** The books' own day: fixed for demo books, else the day in their time zone at this moment. */
export function todayOf(
  books: { readonly fixed_today: PlainDate | null; readonly zone: string },
  now: Date,
): PlainDate {
  return books.fixed_today ?? bookDates(books.zone)(now);
}

/** The moment it is in the books: on a day that is fixed it is the end of its work, 18:00 UTC. */
export function clockOf(books: { readonly fixed_today: PlainDate | null }, now: Date): Date {
  return books.fixed_today === null ? now : new Date(`${books.fixed_today}T18:00:00Z`);
}
