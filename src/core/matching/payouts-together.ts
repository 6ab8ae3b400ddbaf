import { workingDaysBetween, type WorkingCalendar } from '../calendar';
import { groupBy } from '../group-by';
import { firstNotBefore } from '../sorted';
import type { LineToExplain, PayoutHabit, PayoutInTransit } from './payouts';
import type { Explanation, Proposal, Reason } from './proposal';

/** A payout on its way with the channel it is of. */
export interface PayoutOfChannel extends PayoutInTransit {
  readonly channel: number;
}

/** Payouts that a bank puts into one deposit follow each other, and are few. */
const MOST_TOGETHER = 4;

/** Payouts one behind the other that come to a line, of one channel's in the order of their days. */
function runsTo(
  line: LineToExplain,
  sorted: readonly PayoutOfChannel[],
  calendar: WorkingCalendar,
  habit: PayoutHabit,
): Explanation[] {
  const found: Explanation[] = [];
  const first = firstNotBefore(sorted, ({ left }) => workingDaysBetween(left, line.date, calendar) > habit.farthest);
  const end = firstNotBefore(sorted, ({ left }) => left <= line.date);
  for (let from = first; from < end; from++) {
    let sum = sorted[from]!.net as number;
    for (let to = from + 1; to < Math.min(end, from + MOST_TOGETHER); to++) {
      sum += sorted[to]!.net;
      if (sum !== line.amount) continue;
      const run = sorted.slice(from, to + 1);
      const named = run.filter(({ key }) => line.keys.has(key));
      const reasons: Reason[] = [
        ...named.map(({ reference }) => ({ kind: 'reference-in-text', reference }) as const),
        { kind: 'payouts-together', count: run.length },
        { kind: 'equal-to-the-cent' },
      ];
      found.push({ parts: run.map(({ id }) => ({ kind: 'payout', id }) as const), reasons });
    }
  }
  return found;
}

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
  const byChannel = groupBy(payouts, ({ account, channel }) => `${account}/${channel}`);
  const found = new Map<number, Explanation[]>();
  for (const key of [...byChannel.keys()].sort()) {
    const sorted = byChannel.get(key)!.sort((a, b) => a.left.localeCompare(b.left) || a.id - b.id);
    for (const line of lines) {
      if (line.amount <= 0 || line.account !== sorted[0]!.account) continue;
      for (const run of runsTo(line, sorted, calendar, habit)) found.set(line.id, [...(found.get(line.id) ?? []), run]);
    }
  }
  const claims = new Map<number, number>();
  for (const ways of found.values()) {
    for (const id of new Set(ways.flatMap(({ parts }) => parts.map((part) => part.id))))
      claims.set(id, (claims.get(id) ?? 0) + 1);
  }
  return new Map(
    [...found].map(([line, ways]): [number, Proposal] => {
      const [only] = ways;
      const alone = ways.length === 1 && only!.parts.every(({ id }) => claims.get(id) === 1);
      if (alone) return [line, { line, certainty: 'probable', laid: only!, reasons: [], others: [] }];
      return [
        line,
        {
          line,
          certainty: 'open',
          laid: null,
          reasons: [{ kind: 'several-fit', count: ways.length, searched: payouts.length }],
          others: ways,
        },
      ];
    }),
  );
}
