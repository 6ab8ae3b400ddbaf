import { format } from 'date-fns';
import { UTCDate } from '@date-fns/utc';
import type { PlainDate } from './plain-date';

const at = (date: PlainDate) => new UTCDate(`${date}T00:00:00Z`);

/** "9 Nov": for columns, where the year is plain from the surroundings. */
export const formatDay = (date: PlainDate): string => format(at(date), 'd MMM');

/** "9 Nov 2026". */
export const formatDate = (date: PlainDate): string => format(at(date), 'd MMM yyyy');

/** "Mon 9 Nov 2026". */
export const formatLongDate = (date: PlainDate): string => format(at(date), 'EEE d MMM yyyy');

/** "Mon 9 Nov". */
export const formatWeekday = (date: PlainDate): string => format(at(date), 'EEE d MMM');
