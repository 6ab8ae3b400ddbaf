import { isValid, parseISO } from 'date-fns';

declare const plainDateBrand: unique symbol;

/** A day without time or zone, written YYYY-MM-DD. Compares as text. */
export type PlainDate = string & { readonly [plainDateBrand]: 'PlainDate' };

const SHAPE = /^\d{4}-\d{2}-\d{2}$/;
const DAY = 86_400_000;

/** Dates found to be right: a file names the same few hundred days over and over. */
const known = new Set<string>();
const MOST_KNOWN = 20_000;

/** Reads YYYY-MM-DD; null where the text is no such date or no day of the calendar (2026-02-30). */
export function parsePlainDate(text: string): PlainDate | null {
  if (known.has(text)) return text as PlainDate;
  if (!SHAPE.test(text) || !isValid(parseISO(text))) return null;
  if (known.size < MOST_KNOWN) known.add(text);
  return text as PlainDate;
}

/** @throws RangeError where the text is no date: for constants and for what was checked before. */
export function plainDate(text: string): PlainDate {
  const date = parsePlainDate(text);
  if (date === null) throw new RangeError(`not a date: ${text}`);
  return date;
}

/** The day in UTC on which this instant falls. */
export function utcDay(instant: Date): PlainDate {
  return instant.toISOString().slice(0, 10) as PlainDate;
}

export function addDays(date: PlainDate, days: number): PlainDate {
  // Days of UTC are all equally long, so this is exact.
  return utcDay(new Date(Date.parse(date) + days * DAY));
}

/** Days from one date to another; negative where the second is earlier. */
export function daysBetween(from: PlainDate, to: PlainDate): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / DAY);
}
