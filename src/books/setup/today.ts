import { bookDates, type PlainDate } from '@/core/calendar';

/** The books' own day: fixed for demo books, else the day in their time zone at this moment. */
export function todayOf(
  books: { readonly fixed_today: PlainDate | null; readonly zone: string },
  now: Date,
): PlainDate {
  return books.fixed_today ?? bookDates(books.zone)(now);
}
