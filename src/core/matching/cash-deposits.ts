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
  return normaliseText(box.name).split(' ').some((word) => word.length >= 4 && !/\d/.test(word) && words.has(word)); // prettier-ignore
}

/**
 * Deposits that are what cash on hand came to at the end of a day shortly before, or that less what is missing (recipe 15). What
 * was counted and what was banked are both named; nothing of it is proven.
 */
export function claimCash(lines: readonly DepositLine[], boxes: readonly CashBox[]): Claim[] {
  return lines.flatMap((line) =>
    boxes.flatMap((box): Claim[] => {
      const first = addDays(line.date, -WITHIN);
      const spoken = speaksFor(box, line.text);
      const seen = new Set<number>();
      const claims: Claim[] = [];
      const known = box.days.filter(({ day }) => day <= line.date);
      const from = Math.max(
        0,
        known.findLastIndex(({ day }) => day < first),
      );
      for (const { day, balance } of known.slice(from).reverse()) {
        const gap = line.amount - balance;
        if (balance <= 0 || seen.has(balance)) continue;
        seen.add(balance);
        const near = Math.abs(gap) <= Math.min(GAP_MOST, Math.floor((balance * GAP_SHARE) / 10_000));
        if (gap !== 0 && (!near || box.differences === null || !spoken)) continue;
        claims.push({
          line: line.id,
          sure: gap === 0 || spoken,
          takes: [`cash/${box.account}/${day}`],
          way: {
            parts: [
              {
                kind: 'account',
                id: box.account,
                amount: balance,
                dimensions: {},
                taxCode: null,
                rule: null,
                ruleId: null,
                payer: null,
              },
            ],
            ...(gap !== 0 && { restTo: box.differences! }),
            reasons: [
              { kind: 'cash-on-hand', name: box.name, balance, day },
              ...(spoken ? [{ kind: 'wording' } as const] : []),
              gap === 0 ? { kind: 'equal-to-the-cent' } : { kind: 'cash-gap', amount: gap as Minor },
            ],
          },
        });
      }
      // What is there to the cent needs no gap: a count of another day that leaves one is no equal explanation.
      const exact = claims.filter(({ way }) => way.restTo === undefined);
      return exact.length > 0 ? exact : claims;
    }),
  );
}
