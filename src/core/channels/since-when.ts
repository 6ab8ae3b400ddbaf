import type { PlainDate } from '../calendar';

/** How much of a day was charged as agreed, and how much otherwise. */
export interface ChargedDay {
  readonly day: PlainDate;
  readonly agreed: number;
  readonly otherwise: number;
}

/** Since when something is charged otherwise, and how many single ones lie before that day. */
export interface SinceWhen {
  readonly since: PlainDate;
  readonly before: number;
}

/**
 * The day that parts best what was as agreed from what was not: of days in their order, null where none is otherwise. A single one
 * long before is no beginning; where nothing parts them, it is the first of all.
 */
export function sinceWhen(days: readonly ChargedDay[]): SinceWhen | null {
  const first = days.find(({ otherwise }) => otherwise > 0);
  if (!first) return null;
  let wrong = days.reduce((sum, { agreed }) => sum + agreed, 0);
  const never = days.reduce((sum, { otherwise }) => sum + otherwise, 0);
  let best = { since: first.day, before: 0, wrong: Math.min(never, wrong) };
  let before = 0;
  for (const { day, agreed, otherwise } of days) {
    // Begun on this day, all that was otherwise before it, and all as agreed from it on, is out of place.
    if (otherwise > 0 && before + wrong < best.wrong) best = { since: day, before, wrong: before + wrong };
    before += otherwise;
    wrong -= agreed;
  }
  return { since: best.since, before: best.before };
}
