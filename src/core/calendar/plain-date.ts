import { addDays as addDaysTo, isValid, parseISO } from 'date-fns';
import { UTCDate } from '@date-fns/utc';

declare const plainDateBrand: unique symbol;

/** A day without time or zone, written YYYY-MM-DD. Compares as text. */
export type PlainDate = string & { readonly [plainDateBrand]: 'PlainDate' };

const SHAPE = /^\d{4}-\d{2}-\d{2}$/;

/** Reads YYYY-MM-DD; null where the text is no such date or no day of the calendar (2026-02-30). */
export function parsePlainDate(text: string): PlainDate | null {
  if (!SHAPE.test(text)) return null;
  return isValid(parseISO(text)) ? (text as PlainDate) : null;
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
  return utcDay(addDaysTo(new UTCDate(`${date}T00:00:00Z`), days));
}

/** Days from one date to another; negative where the second is earlier. */
export function daysBetween(from: PlainDate, to: PlainDate): number {
  return Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000);
}
