import { addDays, daysBetween, type PlainDate } from './plain-date';

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

/** How many days of a calendar are counted at most once and kept. */
const MOST_KNOWN = 20_000;

/** Working days of one calendar by their place since 1970-01-05, a Monday: whole weeks are five, less the holidays up to a day. */
class Ordinals {
  private readonly known = new Map<PlainDate, number>();
  private readonly holidays: readonly number[];

  constructor({ holidays }: WorkingCalendar) {
    this.holidays = [...holidays]
      .map(sinceMonday)
      .filter((day) => weekdayOf(day) < 5)
      .sort((a, b) => a - b);
  }

  of(date: PlainDate): number {
    let ordinal = this.known.get(date);
    if (ordinal === undefined) {
      const day = sinceMonday(date);
      ordinal = 5 * Math.floor(day / 7) + Math.min(weekdayOf(day) + 1, 5) - this.holidaysUpTo(day);
      if (this.known.size < MOST_KNOWN) this.known.set(date, ordinal);
    }
    return ordinal;
  }

  private holidaysUpTo(day: number): number {
    let [low, high] = [0, this.holidays.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.holidays[middle]! <= day) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

const sinceMonday = (date: PlainDate) => daysBetween(FIRST_MONDAY, date);
const FIRST_MONDAY = '1970-01-05' as PlainDate;
const weekdayOf = (day: number) => ((day % 7) + 7) % 7;

const ordinals = new WeakMap<WorkingCalendar, Ordinals>();

/**
 * Working days that lie after `from`, up to and with `to`; negative where `to` is earlier. The same day gives 0, and
 * a weekend does not count: from Friday to Monday is 1.
 */
export function workingDaysBetween(from: PlainDate, to: PlainDate, calendar: WorkingCalendar): number {
  let of = ordinals.get(calendar);
  if (!of) ordinals.set(calendar, (of = new Ordinals(calendar)));
  return of.of(to) - of.of(from);
}
