import Holidays from 'date-holidays';

/** Days as the simulated world counts them: ISO dates, UTC. */
export const dayAfter = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * 86_400_000).toISOString().slice(0, 10);

const irish = new Holidays('IE');
const closed = new Map<string, ReadonlySet<string>>();

function holidaysOf(year: string): ReadonlySet<string> {
  let days = closed.get(year);
  if (days === undefined) {
    const list = (irish.getHolidays(year) ?? []).filter(({ type }) => type === 'public' || type === 'bank');
    closed.set(year, (days = new Set(list.map(({ date }) => date.slice(0, 10)))));
  }
  return days;
}

export function isWorkingDay(day: string): boolean {
  const weekday = new Date(`${day}T00:00:00Z`).getUTCDay();
  return weekday !== 0 && weekday !== 6 && !holidaysOf(day.slice(0, 4)).has(day);
}

export function nextWorkingDay(day: string): string {
  let next = dayAfter(day, 1);
  while (!isWorkingDay(next)) next = dayAfter(next, 1);
  return next;
}

export function workingDaysLater(day: string, days: number): string {
  let at = day;
  for (let n = 0; n < days; n++) at = nextWorkingDay(at);
  return at;
}
