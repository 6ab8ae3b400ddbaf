import { tzOffset } from '@date-fns/tz';
import { utcDay, type PlainDate } from './plain-date';

const QUARTER_HOUR = 900_000;
const MINUTE = 60_000;
const DAY = 86_400_000;

/**
 * Gives the book date of an instant in one time zone: 23:30 UTC on 30 September is 1 October in Dublin's summer.
 * Looking an offset up costs microseconds, so it is kept per quarter of an hour, the finest step at which any zone
 * changes, and the day's text per day; a file of 100,000 rows asks a few thousand times.
 */
export function bookDates(zone: string): (instant: Date) => PlainDate {
  const minuteOf = localMinutes(zone);
  const days = new Map<number, PlainDate>();
  return (instant) => {
    const index = Math.floor(minuteOf(instant) / (DAY / MINUTE));
    let day = days.get(index);
    if (day === undefined) days.set(index, (day = utcDay(new Date(index * DAY))));
    return day;
  };
}

/** Gives the minutes, by the clocks of one time zone, from 1 January 1970 to an instant; kept as in {@link bookDates}. */
export function localMinutes(zone: string): (instant: Date) => number {
  const offsets = new Map<number, number>();
  return (instant) => {
    const at = instant.getTime();
    const bucket = Math.floor(at / QUARTER_HOUR);
    let offset = offsets.get(bucket);
    if (offset === undefined) {
      offset = tzOffset(zone, new Date(bucket * QUARTER_HOUR));
      if (Number.isNaN(offset)) throw new RangeError(`unknown time zone ${zone}`);
      offsets.set(bucket, offset);
    }
    return Math.floor(at / MINUTE) + offset;
  };
}

/** Whole seconds, optional fraction, and Z: nothing is guessed about a time without a zone. */
const INSTANT = /^\d{4}-\d{2}-\d{2}[T ]\d{2}:\d{2}(:\d{2}(\.\d{1,9})?)?Z$/;

/** Reads a UTC time ("2026-11-09T10:12:33Z"); null where it is none or names a day or hour that does not exist. */
export function parseInstant(text: string): Date | null {
  if (!INSTANT.test(text)) return null;
  const instant = new Date(text.replace(' ', 'T'));
  if (Number.isNaN(instant.getTime()) || utcDay(instant) !== text.slice(0, 10)) return null;
  return instant;
}
