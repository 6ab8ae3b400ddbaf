import { addDays, type PlainDate } from './plain-date';

/** Which days banks do not work: weekends always, and the public holidays given. */
export interface WorkingCalendar {
  readonly holidays: ReadonlySet<PlainDate>;
}

export function isWorkingDay(date: PlainDate, calendar: WorkingCalendar): boolean {
  const weekday = new Date(`${date}T00:00:00Z`).getUTCDay();
  return weekday !== 0 && weekday !== 6 && !calendar.holidays.has(date);
}

/** The working day that comes `count` working days after this date; 0 gives this day or the next working one. */
export function addWorkingDays(date: PlainDate, count: number, calendar: WorkingCalendar): PlainDate {
  let day = date;
  while (!isWorkingDay(day, calendar)) day = addDays(day, 1);
  for (let left = count; left > 0;) {
    day = addDays(day, 1);
    if (isWorkingDay(day, calendar)) left--;
  }
  return day;
}

/**
 * Working days that lie after `from`, up to and with `to`; negative where `to` is earlier. The same day gives 0, and
 * a weekend does not count: from Friday to Monday is 1.
 */
export function workingDaysBetween(from: PlainDate, to: PlainDate, calendar: WorkingCalendar): number {
  if (to < from) return -workingDaysBetween(to, from, calendar);
  let count = 0;
  for (let day = from; day < to;) {
    day = addDays(day, 1);
    if (isWorkingDay(day, calendar)) count++;
  }
  return count;
}
