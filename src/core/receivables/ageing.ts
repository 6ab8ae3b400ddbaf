import { daysBetween, type PlainDate } from '../calendar';

/** How long an amount has been due, in spans of days. */
export const AGEING_SPANS = [
  { key: 'notDue', label: 'Not due', from: Number.NEGATIVE_INFINITY, to: 0 },
  { key: 'days30', label: '1 to 30 days', from: 1, to: 30 },
  { key: 'days60', label: '31 to 60 days', from: 31, to: 60 },
  { key: 'days90', label: '61 to 90 days', from: 61, to: 90 },
  { key: 'older', label: 'Over 90 days', from: 91, to: Number.POSITIVE_INFINITY },
] as const;

export type AgeingSpan = (typeof AGEING_SPANS)[number]['key'];

/** The span of an amount due on a day, seen on another. */
export function spanOf(due: PlainDate, on: PlainDate): AgeingSpan {
  const late = daysBetween(due, on);
  return AGEING_SPANS.find(({ from, to }) => late >= from && late <= to)!.key;
}
