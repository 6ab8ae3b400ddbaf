import { daysBetween, type PlainDate } from '../calendar';
import { minor, type Minor } from '../money';

export const PLAN_INTERVALS = ['month', 'quarter', 'year'] as const;
export type PlanInterval = (typeof PLAN_INTERVALS)[number];

const MONTHS: Record<PlanInterval, number> = { month: 1, quarter: 3, year: 12 };

/** When a plan bills. Dates are days of the books. */
export interface Recurrence {
  readonly every: PlanInterval;
  /** The first day that is billed for, and so the day of the month of all later ones. */
  readonly starts: PlainDate;
  /** Bills on the last day of the month, as its start is one. */
  readonly lastDay: boolean;
  /** The last day that is billed for; null where there is none. */
  readonly ends: PlainDate | null;
  /** Nothing is billed for periods that begin from here on … */
  readonly pausedFrom: PlainDate | null;
  /** … up to here, this day not included; null while it is not known. */
  readonly resumes: PlainDate | null;
  /** Whether a period that the plan leaves before its end is billed in part; else it is billed whole. */
  readonly prorates: boolean;
}

/** One period of a plan: both days included. */
export interface Period {
  readonly from: PlainDate;
  readonly to: PlainDate;
  /** What of it is billed, as days of days: equal where it is whole. */
  readonly days: number;
  readonly of: number;
}

const lastOf = (year: number, month: number) => new Date(Date.UTC(year, month, 0)).getUTCDate();

/**
 * The day so many months on. The day of the month is that of the first date, or the last one there is: 31 January is followed
 * by 28 February and then by 31 March. With `lastDay` it is the end of each month, whatever day that is.
 */
export function monthsOn(first: PlainDate, months: number, lastDay = false): PlainDate {
  const [year, month, day] = first.split('-').map(Number) as [number, number, number];
  const total = year * 12 + (month - 1) + months;
  const [inYear, inMonth] = [Math.floor(total / 12), (total % 12) + 1];
  const end = lastOf(inYear, inMonth);
  const at = lastDay ? end : Math.min(day, end);
  return `${inYear}-${String(inMonth).padStart(2, '0')}-${String(at).padStart(2, '0')}` as PlainDate;
}

/** Whether a day is the last of its month. */
export function isLastOfMonth(date: PlainDate): boolean {
  const [year, month, day] = date.split('-').map(Number) as [number, number, number];
  return day === lastOf(year, month);
}

const dayBefore = (date: PlainDate) => new Date(Date.parse(date) - 86_400_000).toISOString().slice(0, 10) as PlainDate;

/** The periods of a plan that begin up to a day, oldest first; those that fall in a pause are left out. */
export function periodsUntil(plan: Recurrence, until: PlainDate, most = 1_000): Period[] {
  const periods: Period[] = [];
  for (let n = 0; periods.length < most; n++) {
    const from = monthsOn(plan.starts, n * MONTHS[plan.every], plan.lastDay);
    if (from > until || (plan.ends !== null && from > plan.ends)) break;
    const paused =
      plan.pausedFrom !== null && from >= plan.pausedFrom && (plan.resumes === null || from < plan.resumes);
    if (paused) {
      if (plan.resumes === null) break;
      continue;
    }
    const to = dayBefore(monthsOn(plan.starts, (n + 1) * MONTHS[plan.every], plan.lastDay));
    const of = daysBetween(from, to) + 1;
    const left = plan.prorates && plan.ends !== null && plan.ends < to ? plan.ends : to;
    periods.push({ from, to: left, days: daysBetween(from, left) + 1, of });
  }
  return periods;
}

/** The share of an amount for so many days of a period, rounded half away from zero. */
export function prorated(amount: Minor, { days, of }: Pick<Period, 'days' | 'of'>): Minor {
  if (days === of) return amount;
  const size = Math.abs(amount) * days;
  const share = Math.floor((2 * size + of) / (2 * of));
  return minor(amount < 0 ? -share : share);
}

/** The price that holds for a period: the newest that began on or before its first day. */
export function priceOn(
  prices: readonly { readonly from: PlainDate; readonly price: Minor }[],
  first: Minor,
  day: PlainDate,
): Minor {
  let best: { readonly from: PlainDate; readonly price: Minor } | null = null;
  for (const one of prices) if (one.from <= day && (best === null || one.from > best.from)) best = one;
  return best?.price ?? first;
}
