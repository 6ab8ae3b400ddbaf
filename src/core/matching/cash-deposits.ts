import { addDays, type PlainDate } from '../calendar';
import type { Minor } from '../money';
import type { Claim } from './claims';
import { normaliseText } from './text';

/** Cash or cheques on hand, and what was there at the end of each day on which something moved, oldest first. */
export interface CashBox {
  readonly account: number;
  readonly name: string;
  readonly days: readonly { readonly day: PlainDate; readonly balance: Minor }[];
  /** Where what is missing or over is booked; null where the books have no account for it, or nothing may be missing. */
  readonly differences: number | null;
  /** What the bank wrote of earlier deposits from it, as {@link wordingOf} compares it. */
  readonly wordings: ReadonlySet<string>;
}

export interface DepositLine {
  readonly id: number;
  readonly date: PlainDate;
  readonly amount: Minor;
  readonly text: string;
}

/** Cash is banked within so many days of the count. */
const WITHIN = 7;
/** So much may be missing or over of what was counted: basis points, and minor units. */
const GAP_SHARE = 500;
const GAP_MOST = 50_00;

/** A bank's text without its numbers, and the references they stand in: what it writes alike of every deposit of a kind. */
export const wordingOf = (text: string): string =>
  normaliseText(
    text
      .split(/\s+/)
      .filter((word) => !/\d/.test(word))
      .join(' '),
  );

function speaksFor(box: CashBox, text: string): boolean {
  const wording = wordingOf(text);
  if (wording !== '' && box.wordings.has(wording)) return true;
  const words = new Set(normaliseText(text).split(' '));
  return normaliseText(box.name)
    .split(' ')
    .some((word) => word.length >= 4 && !/\d/.test(word) && words.has(word));
}

/** What may have been banked together: all that was on hand at the end of a day, or what came in on some days up to it. */
interface Counted {
  readonly amount: Minor;
  readonly from: PlainDate | null;
  readonly to: PlainDate;
  readonly days: readonly PlainDate[];
}

function countsOf({ days }: CashBox, date: PlainDate): Counted[] {
  const first = addDays(date, -WITHIN);
  const known = days.filter(({ day }) => day <= date);
  const counts: Counted[] = [];
  for (let to = known.length - 1; to >= 0; to--) {
    const { day, balance } = known[to]!;
    // What was on hand before the first of these days, and nothing moved since, was there on it too.
    if (day < first && known[to + 1] !== undefined && known[to + 1]!.day <= first) break;
    counts.push({ amount: balance, from: null, to: day, days: [day] });
    for (let from = to; from > 0 && to - from < WITHIN && day >= first; from--) {
      const taken = (balance - known[from - 1]!.balance) as Minor;
      counts.push({
        amount: taken,
        from: known[from]!.day,
        to: day,
        days: known.slice(from, to + 1).map((one) => one.day),
      });
    }
    if (day < first) break;
  }
  return counts.filter(({ amount }) => amount > 0);
}

function claimOf(line: DepositLine, box: CashBox, counted: Counted, spoken: boolean): Claim | null {
  const { amount, from, to, days } = counted;
  const gap = (line.amount - amount) as Minor;
  const whole = from === null;
  if (gap !== 0) {
    // Among many days some sum lies near any amount: short is only all that was there, or one day's takings.
    const near = Math.abs(gap) <= Math.min(GAP_MOST, Math.floor((amount * GAP_SHARE) / 10_000));
    if (!near || box.differences === null || !spoken || (!whole && days.length > 1)) return null;
  }
  return {
    line: line.id,
    sure: spoken || (whole && gap === 0),
    takes: days.map((day) => `cash/${box.account}/${day}`),
    way: {
      parts: [
        {
          kind: 'account',
          id: box.account,
          amount,
          dimensions: {},
          taxCode: null,
          rule: null,
          ruleId: null,
          payer: null,
        },
      ],
      ...(gap !== 0 && { restTo: box.differences! }),
      reasons: [
        from === null
          ? { kind: 'cash-on-hand', name: box.name, balance: amount, day: to }
          : { kind: 'cash-takings', name: box.name, amount, from, to },
        ...(spoken ? [{ kind: 'wording' } as const] : []),
        gap === 0 ? { kind: 'equal-to-the-cent' } : { kind: 'cash-gap', amount: gap },
      ],
    },
  };
}

/**
 * Deposits that are cash which was on hand at the end of a day shortly before, or the takings of some days up to it, or either less
 * what is missing (recipe 15). What was counted and what was banked are both named; nothing of it is proven.
 */
export function claimCash(lines: readonly DepositLine[], boxes: readonly CashBox[]): Claim[] {
  return lines.flatMap((line) =>
    boxes.flatMap((box) => {
      const spoken = speaksFor(box, line.text);
      const seen = new Set<number>();
      const claims = countsOf(box, line.date).flatMap((counted) => {
        if (seen.has(counted.amount)) return [];
        const claim = claimOf(line, box, counted, spoken);
        if (claim) seen.add(counted.amount);
        return claim ?? [];
      });
      // What is there to the cent needs no gap: a count of another day that leaves one is no equal explanation.
      const exact = claims.filter(({ way }) => way.restTo === undefined);
      return exact.length > 0 ? exact : claims;
    }),
  );
}
