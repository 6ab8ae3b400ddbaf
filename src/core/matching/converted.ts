import { workingDaysBetween, type WorkingCalendar } from '../calendar';
import type { Currency, Minor } from '../money';
import type { Claim } from './claims';
import type { DepositLine } from './cash-deposits';
import type { PayoutOfChannel } from './payouts-together';

/** A payout in another currency: its net in that, and what clearing carries of it in the books' own. */
export interface ForeignPayout extends Omit<PayoutOfChannel, 'net'> {
  readonly currency: Currency;
  readonly foreign: Minor;
  readonly carried: Minor;
  /** Where the gain or loss is booked; null where the channel has no account for it. */
  readonly differences: number | null;
}

export interface ConvertedLine extends DepositLine {
  readonly account: number;
  readonly keys: ReadonlySet<string>;
}

/** The rate of the bank or channel is this near to that of the day, basis points; further off it is another payout. */
const FARTHEST_RATE = 400;
/** Within this, and at its usual time, it is what one expects. */
const USUAL_RATE = 150;

/** Whether the bank's text names the currency and, digit by digit, the amount in it. */
function saysAmount(text: string, { currency, foreign }: ForeignPayout): boolean {
  const numbers = text.match(/\d[\d.,']*/g) ?? [];
  return text.toUpperCase().includes(currency) && numbers.some((one) => one.replace(/\D/g, '') === String(foreign));
}

/**
 * Deposits that are a payout of another currency, converted by the bank or by the channel (recipe 23): the amount lies near what
 * clearing carries of it, and the rest is the gain or loss. Sure is what names the payout or its own amount, or what alone comes at the
 * usual time at nearly the rate of the day; proven is none of it, for the rate is free.
 */
export function claimConverted(
  lines: readonly ConvertedLine[],
  payouts: readonly ForeignPayout[],
  calendar: WorkingCalendar,
  { slack, farthest }: { readonly slack: number; readonly farthest: number },
): Claim[] {
  return lines.flatMap((line) =>
    payouts.flatMap((payout): Claim[] => {
      if (payout.account !== line.account || payout.left > line.date || payout.carried <= 0) return [];
      const lag = workingDaysBetween(payout.left, line.date, calendar);
      const off = Math.round(((line.amount - payout.carried) * 10_000) / payout.carried);
      if (lag > farthest || Math.abs(off) > FARTHEST_RATE) return [];
      const named = line.keys.has(payout.key);
      const said = saysAmount(line.text, payout);
      const usual = Math.abs(lag - payout.usualLag) <= slack && Math.abs(off) <= USUAL_RATE;
      const rest = (line.amount - payout.carried) as Minor;
      return [
        {
          line: line.id,
          sure: named || said || usual,
          takes: [`payout/${payout.id}`],
          way: {
            parts: [{ kind: 'payout', id: payout.id }],
            ...(rest !== 0 && payout.differences !== null && { restTo: payout.differences }),
            reasons: [
              ...(named ? [{ kind: 'reference-in-text', reference: payout.reference } as const] : []),
              ...(said
                ? [{ kind: 'foreign-in-text', currency: payout.currency, amount: payout.foreign } as const]
                : []),
              { kind: 'arrived', lag, usual: payout.usualLag },
              {
                kind: 'converted',
                currency: payout.currency,
                foreign: payout.foreign,
                amount: line.amount,
                carried: payout.carried,
              },
            ],
          },
        },
      ];
    }),
  );
}
