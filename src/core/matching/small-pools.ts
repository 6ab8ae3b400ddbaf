import type { Minor } from '../money';
import type { Claim } from './claims';
import { MOST_FOR_ONLY, MOST_SEARCHED, subsetsTo } from './subsets';
import type { SweepChannel } from './sweep-proposals';

/** A deposit by the number of its day. */
export interface PoolLine {
  readonly id: number;
  /** Days since 1970-01-01. */
  readonly day: number;
  readonly amount: Minor;
}

/** Amounts that people choose are multiples of this; among them sums are equal by chance. */
const ROUND = 500;

/** What a channel holds within reach of a day, oldest first; null where there are too many to go through. */
function within({ receipts, habit }: SweepChannel, day: number): { id: number; net: number }[] | null {
  const found: { id: number; net: number }[] = [];
  for (let at = 0; at < receipts.count; at++) {
    const lag = day - receipts.day[at]!;
    if (receipts.taken[at] === 1 || lag < 0 || lag > habit.longestLag + habit.longestSpan) continue;
    if (found.length === MOST_SEARCHED) return null;
    found.push({ id: receipts.id[at]!, net: receipts.net[at]! });
  }
  return found;
}

/**
 * Deposits that some of a few receipts of a channel come to, wherever they lie in its order (stage 6). All sets are gone through.
 * One set alone is claimed only where up to ten were searched, no two are alike, they are no round gifts and their fees are known:
 * with one receipt missing from the books a false "only one" is common beyond that. Else the first two are shown.
 */
export function claimPools(lines: readonly PoolLine[], channel: SweepChannel): Claim[] {
  return lines.flatMap((line) => {
    const pool = within(channel, line.day);
    if (pool === null || pool.length < 2) return [];
    const nets = pool.map(({ net }) => net);
    const sets = subsetsTo(nets, line.amount) ?? [];
    const told = new Set(nets).size === nets.length && !nets.every((net) => net % ROUND === 0);
    const only = sets.length === 1 && pool.length <= MOST_FOR_ONLY && told && channel.feesKnown;
    return sets.map((set): Claim => {
      const ids = set.map((at) => pool[at]!.id);
      return {
        line: line.id,
        sure: only,
        takes: ids.map((id) => `receipt/${id}`),
        way: {
          parts: ids.map((id) => ({ kind: 'receipt', id }) as const),
          reasons: [
            {
              kind: 'some-of-pool',
              channel: channel.name,
              count: ids.length,
              searched: pool.length,
              only: sets.length === 1,
            },
            { kind: 'equal-to-the-cent' },
          ],
        },
      };
    });
  });
}
