import { workingDaysBetween, type PlainDate, type WorkingCalendar } from '../calendar';
import type { Minor } from '../money';
import type { Claim } from './claims';
import type { DepositLine } from './cash-deposits';

/** A channel that says neither its payouts nor its fees: what it took by day, oldest first, without what is explained. */
export interface TotalsChannel {
  readonly name: string;
  readonly days: readonly { readonly day: PlainDate; readonly gross: Minor; readonly receipts: readonly number[] }[];
  /** Where its fees are booked. */
  readonly fees: number;
  /** Working days after which it usually pays, and how far that may be off. */
  readonly usualLag: number;
  readonly slack: number;
  /** What earlier confirmed deposits were charged, basis points of their gross. */
  readonly rates: readonly number[];
}

/** A fee that is not known lies within this, basis points of gross. */
const HIGHEST_FEE = 500;
/** Days of takings that come in one deposit. */
const MOST_DAYS = 4;
/** With fewer deposits before, what is usual is not known; then a fee is usual within so many basis points of their middle. */
const FEWEST = 3;
const AROUND = 15;

const middle = (rates: readonly number[]) => [...rates].sort((a, b) => a - b)[rates.length >> 1]!;

/**
 * Deposits that are whole days' takings less a fee that nobody states (recipe 21). A free fee proves nothing, since it hides a
 * missing receipt: sure is only what is charged as it usually was, all else is shown.
 */
export function claimTotals(lines: readonly DepositLine[], channel: TotalsChannel, calendar: WorkingCalendar): Claim[] {
  const { days, rates } = channel;
  const usual = rates.length >= FEWEST ? middle(rates) : null;
  return lines.flatMap((line) => {
    const claims: Claim[] = [];
    for (let to = 0; to < days.length; to++) {
      if (days[to]!.day > line.date) break;
      const lag = workingDaysBetween(days[to]!.day, line.date, calendar);
      if (Math.abs(lag - channel.usualLag) > channel.slack) continue;
      let gross = 0;
      for (let from = to; from >= Math.max(0, to - MOST_DAYS + 1); from--) {
        gross += days[from]!.gross;
        const fee = gross - line.amount;
        if (fee < 0) continue;
        const rate = Math.round((fee * 10_000) / gross);
        if (rate > HIGHEST_FEE) break;
        const run = days.slice(from, to + 1);
        const receipts = run.flatMap((day) => day.receipts);
        claims.push({
          line: line.id,
          sure: usual !== null && Math.abs(rate - usual) <= AROUND,
          takes: receipts.map((id) => `receipt/${id}`),
          way: {
            parts: receipts.map((id) => ({ kind: 'receipt', id }) as const),
            ...(fee !== 0 && { restTo: channel.fees }),
            reasons: [
              {
                kind: 'whole-days',
                channel: channel.name,
                from: run[0]!.day,
                to: run.at(-1)!.day,
                count: receipts.length,
              },
              { kind: 'arrived', lag, usual: channel.usualLag },
              { kind: 'fee-unstated', amount: fee as Minor, rate, usual },
            ],
          },
        });
      }
    }
    return claims;
  });
}
