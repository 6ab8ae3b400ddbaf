import { addDays, plainDate, type PlainDate } from '../calendar';
import { minor } from '../money';
import type { Explanation, Proposal, Reason } from './proposal';
import { findSweeps, type LineSet, type ReceiptColumns, type SweepFacts, type SweepHabit, type Sweeps } from './sweeps';

const EPOCH = plainDate('1970-01-01');
/** Days since 1970-01-01. */
export const dayNumber = (date: PlainDate): number => Math.round(Date.parse(`${date}T00:00:00Z`) / 86_400_000);
export const dayOfNumber = (day: number): PlainDate => addDays(EPOCH, day);

/** Margins (natural logarithm of odds) from which a sweep is laid as probable, and from which it is shown at all. */
export const PROBABLE_FROM = 6.5;
export const SHOWN_FROM = 1.5;
/** A near run is probable where its difference would be made up by accident less than once in this many. */
const NEAR_PROBABLE = 1 / 500;
const NEAR_SHOWN = 1 / 10;
/** Odds beyond this say no more to anybody. */
const MOST_ODDS = 1_000_000;

/** What of a channel its deposits may be runs of. */
export interface SweepChannel {
  readonly name: string;
  readonly receipts: ReceiptColumns;
  readonly habit: SweepHabit;
  /** Learnt before; null lets it be learnt now. */
  readonly facts: SweepFacts | null;
  /** Every fee is the channel's own figure, so a run's sum is exact. */
  readonly feesKnown: boolean;
}

function runReasons(channel: SweepChannel, { sequence }: Sweeps, from: number, to: number): Reason {
  return {
    kind: 'run-of-receipts',
    channel: channel.name,
    count: to - from,
    from: dayOfNumber(sequence.day[from]!),
    to: dayOfNumber(sequence.day[to - 1]!),
  };
}

function receiptsOf(
  channel: SweepChannel,
  { sequence }: Sweeps,
  from: number,
  to: number,
  without: readonly number[],
  late: readonly number[],
) {
  const left = new Set(without);
  const positions = [...late, ...Array.from({ length: to - from }, (_, n) => from + n).filter((at) => !left.has(at))];
  return positions.map((at) => ({ kind: 'receipt', id: channel.receipts.id[sequence.row[at]!]! }) as const);
}

/**
 * Proposes runs of a channel's receipts for deposits (stages 5 and 6). Proven is only what lies between two known payouts, is all
 * that is there to the cent at fees the channel itself gave, and is neither another run nor tiled by other lines; all else is probable at best.
 */
export function proposeSweeps(
  set: LineSet,
  channel: SweepChannel,
): { readonly proposals: Proposal[]; readonly facts: SweepFacts } {
  const sweeps = findSweeps(channel.receipts, set, channel.habit, channel.facts);
  const { lines } = set;
  const { sequence } = sweeps;
  const proposals: Proposal[] = [];
  for (const { line, from, to, margin, joinedBefore, joinedAfter, between, tiledOtherwise } of sweeps.sweeps) {
    if (margin < SHOWN_FROM) continue;
    const laid: Explanation = {
      parts: receiptsOf(channel, sweeps, from, to, [], []),
      reasons: [
        runReasons(channel, sweeps, from, to),
        { kind: 'equal-to-the-cent' },
        ...(between
          ? [{ kind: 'between-payouts' } as const]
          : joinedBefore || joinedAfter
            ? [{ kind: 'joins', before: joinedBefore, after: joinedAfter } as const]
            : []),
        { kind: 'by-chance', oneIn: Math.round(Math.min(MOST_ODDS, Math.exp(margin))) },
      ],
    };
    const sure = between && !tiledOtherwise && channel.feesKnown && margin >= PROBABLE_FROM;
    const certainty = sure ? 'proven' : margin >= PROBABLE_FROM ? 'probable' : 'open';
    proposals.push({
      line: lines[line]!.id,
      certainty,
      laid: certainty === 'open' ? null : laid,
      reasons: [],
      others: certainty === 'open' ? [laid] : [],
    });
  }
  for (const { line, from, to, without, late, byChance } of sweeps.near) {
    if (byChance > NEAR_SHOWN) continue;
    const netOf = (positions: readonly number[]) =>
      minor(positions.reduce((sum, at) => sum + sequence.total[at + 1]! - sequence.total[at]!, 0));
    const near: Explanation = {
      parts: receiptsOf(channel, sweeps, from, to, without, late),
      reasons: [
        runReasons(channel, sweeps, from, to),
        ...(without.length > 0 ? [{ kind: 'held-back', count: without.length, amount: netOf(without) } as const] : []),
        ...(late.length > 0 ? [{ kind: 'came-late', count: late.length, amount: netOf(late) } as const] : []),
      ],
    };
    const probable = byChance < NEAR_PROBABLE;
    proposals.push({
      line: lines[line]!.id,
      certainty: probable ? 'probable' : 'open',
      laid: probable ? near : null,
      reasons: [],
      others: probable ? [] : [near],
    });
  }
  return { proposals, facts: sweeps.facts };
}
