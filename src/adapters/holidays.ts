import Holidays from 'date-holidays';
import type { PlainDate, WorkingCalendar } from '@/core/calendar';

const calendars = new Map<string, WorkingCalendar>();

/** The years for which payouts are expected to be reckoned: the table is small and made once. */
const YEARS = Array.from({ length: 31 }, (_, index) => 2010 + index);

/** Weekends and the public holidays of a country (ISO 3166 code), on which its banks do not work. */
export function workingCalendar(country: string): WorkingCalendar {
  let calendar = calendars.get(country);
  if (calendar === undefined) {
    const holidays = new Holidays(country);
    const days = YEARS.flatMap((year) => holidays.getHolidays(year) ?? [])
      .filter((holiday) => holiday.type === 'public' || holiday.type === 'bank')
      .map((holiday) => holiday.date.slice(0, 10) as PlainDate);
    calendars.set(country, (calendar = { holidays: new Set(days) }));
  }
  return calendar;
}
