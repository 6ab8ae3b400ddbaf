import { workingDaysBetween, type WorkingCalendar } from '../calendar';
import type { LineToExplain, PayoutHabit, PayoutInTransit } from './payouts';
import type { Explanation, Proposal, Reason } from './proposal';

/** A payout on its way with the channel it is of. */
export interface PayoutOfChannel extends PayoutInTransit {
  readonly channel: number;
}

/** Payouts that a bank puts into one deposit follow each other, and are few. */
const MOST_TOGETHER = 4;

/**
 * Deposits that several payouts of one channel came in together: payouts one behind the other, all within reach of the line, that
 * come to it to the cent. One such run is probable, several are open, each named. A payout that two lines claim is sure for none.
 */
export function proposeTogether(
  lines: readonly LineToExplain[],
  payouts: readonly PayoutOfChannel[],
  calendar: WorkingCalendar,
  habit: PayoutHabit,
): Map<number, Proposal> {
  const sorted = [...payouts].sort(
    (a, b) => a.account - b.account || a.channel - b.channel || a.left.localeCompare(b.left) || a.id - b.id,
  );
  const found = new Map<number, Explanation[]>();
  for (const line of lines) {
    if (line.amount <= 0) continue;
    const reaches = ({ account, left }: PayoutOfChannel) => {
      if (account !== line.account || left > line.date) return false;
      return workingDaysBetween(left, line.date, calendar) <= habit.farthest;
    };
    for (let from = 0; from < sorted.length; from++) {
      if (!reaches(sorted[from]!)) continue;
      let sum = sorted[from]!.net as number;
      for (let to = from + 1; to < Math.min(sorted.length, from + MOST_TOGETHER); to++) {
        if (sorted[to]!.channel !== sorted[from]!.channel || !reaches(sorted[to]!)) break;
        sum += sorted[to]!.net;
        if (sum !== line.amount) continue;
        const run = sorted.slice(from, to + 1);
        const named = run.filter(({ key }) => line.keys.has(key));
        const reasons: Reason[] = [
          ...named.map(({ reference }) => ({ kind: 'reference-in-text', reference }) as const),
          { kind: 'payouts-together', count: run.length },
          { kind: 'equal-to-the-cent' },
        ];
        const way: Explanation = { parts: run.map(({ id }) => ({ kind: 'payout', id }) as const), reasons };
        found.set(line.id, [...(found.get(line.id) ?? []), way]);
      }
    }
  }
  const claims = new Map<number, number>();
  for (const ways of found.values()) {
    for (const id of new Set(ways.flatMap(({ parts }) => parts.map((part) => part.id)))) claims.set(id, (claims.get(id) ?? 0) + 1); // prettier-ignore
  }
  return new Map(
    [...found].map(([line, ways]): [number, Proposal] => {
      const [only] = ways;
      const alone = ways.length === 1 && only!.parts.every(({ id }) => claims.get(id) === 1);
      if (alone) return [line, { line, certainty: 'probable', laid: only!, reasons: [], others: [] }];
      return [line, { line, certainty: 'open', laid: null, reasons: [{ kind: 'several-fit', count: ways.length, searched: sorted.length }], others: ways }]; // prettier-ignore
    }),
  );
}
