import { format } from 'date-fns';
import { UTCDate } from '@date-fns/utc';
import type { PlainDate } from './plain-date';

const at = (date: PlainDate) => new UTCDate(`${date}T00:00:00Z`);

/** Days that were formatted: what is written at once is of few of them. */
const days = new Map<PlainDate, string>();
const MOST_DAYS = 2_000;

/** "9 Nov": for columns, where the year is plain from the surroundings. */
export function formatDay(date: PlainDate): string {
  const known = days.get(date);
  if (known !== undefined) return known;
  const words = format(at(date), 'd MMM');
  if (days.size < MOST_DAYS) days.set(date, words);
  return words;
}

/** "9 Nov 2026". */
export const formatDate = (date: PlainDate): string => format(at(date), 'd MMM yyyy');

/** "Mon 9 Nov 2026". */
export const formatLongDate = (date: PlainDate): string => format(at(date), 'EEE d MMM yyyy');

/** "Mon 9 Nov". */
export const formatWeekday = (date: PlainDate): string => format(at(date), 'EEE d MMM');
