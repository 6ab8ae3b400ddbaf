import { candidatesOf, type Candidates, type LineSet, type SweepHabit } from './candidates';
import { chooseChains, type Chosen, type Weights } from './chains';
import { findExchanged, findHeldBack, type Gap, type NearSweep, type SharedGap } from './held-back';
import { Sequence, type ReceiptColumns } from './receipts';
import { Tilings } from './tilings';

/** What was learnt of a channel from its own chains: how its days lie between receipt and bank, and where it cuts. */
export interface SweepFacts {
  /** Share of lags by days of the calendar. */
  readonly lags: ReadonlyMap<number, number>;
  /** Share of boundaries at which a day of the channel begins. */
  readonly dayCuts: number;
  readonly learntFrom: number;
}

/** A run of receipts that a deposit is, and how much better that is than any other way. */
export interface Sweep {
  /** Place of the line in its set. */
  readonly line: number;
  /** Boundaries in the channel's free receipts: the run is from one to the other. */
  readonly from: number;
  readonly to: number;
  /** Natural logarithm of the odds against the best other way. */
  readonly margin: number;
  /** It begins where another sweep or a known payout ends, and ends where another begins. */
  readonly joinedBefore: boolean;
  readonly joinedAfter: boolean;
  /** Both are edges of what is known, and nothing else comes to the amount. */
  readonly between: boolean;
  /** What it is a run of is explained by other lines as well, to the last receipt; asked of what lies between edges. */
  readonly tiledOtherwise: boolean;
}

export interface Sweeps {
  readonly sequence: Sequence;
  readonly sweeps: readonly Sweep[];
  /** What lies alone between runs and is nearly all of what is there. */
  readonly near: readonly NearSweep[];
  readonly facts: SweepFacts;
  readonly candidates: Candidates;
}

/** Margins from which a chosen run teaches something about its channel. */
const TEACHES = 6;
const FEWEST_LESSONS = 8;
/** Nothing is ruled out by what was learnt; it only becomes unlikely. */
const FLOOR = 0.002;

/** Before anything is learnt: any lag that the habit allows, boundaries anywhere. */
function firstWeights(habit: SweepHabit, starts: number): Weights {
  const lags = habit.longestLag - habit.shortestLag + 1;
  return {
    lag: () => Math.log(1 / lags),
    dayCut: 0,
    withinDay: 0,
    joined: Math.log(Math.max(2, starts)),
  };
}

/** Boundaries among which the start of a run would be one by accident: those of a few days of the channel. */
function startsOf(sequence: Sequence, habit: SweepHabit): number {
  const days = sequence.size === 0 ? 1 : sequence.day[sequence.size - 1]! - sequence.day[0]! + 1;
  return Math.max(2, (sequence.size / days) * Math.min(4, habit.longestSpan));
}

function learn(sequence: Sequence, lineDays: Int32Array, c: Candidates, { candidate, margin }: Chosen): SweepFacts {
  const lags = new Map<number, number>();
  let [n, cuts, boundaries] = [0, 0, 0];
  for (let line = 0; line < candidate.length; line++) {
    const at = candidate[line]!;
    if (at < 0 || margin[line]! < TEACHES) continue;
    n++;
    const lag = lineDays[line]! - sequence.day[c.to[at]! - 1]!;
    lags.set(lag, (lags.get(lag) ?? 0) + 1);
    for (const boundary of [c.from[at]!, c.to[at]!]) {
      boundaries++;
      if (sequence.isDayCut(boundary)) cuts++;
    }
  }
  return {
    lags: new Map([...lags].map(([lag, count]) => [lag, count / Math.max(1, n)])),
    dayCuts: boundaries === 0 ? 0 : cuts / boundaries,
    learntFrom: n,
  };
}

/** How often a boundary is the beginning of a day by accident. */
function cutsByChance(sequence: Sequence): number {
  let cuts = 0;
  for (let boundary = 0; boundary <= sequence.size; boundary++) if (sequence.isDayCut(boundary)) cuts++;
  return Math.min(0.999, cuts / (sequence.size + 1));
}

function learntWeights(facts: SweepFacts, habit: SweepHabit, sequence: Sequence): Weights {
  const first = firstWeights(habit, startsOf(sequence, habit));
  if (facts.learntFrom < FEWEST_LESSONS) return first;
  const by = cutsByChance(sequence);
  const share = Math.min(0.995, Math.max(0.005, facts.dayCuts));
  return {
    ...first,
    lag: (days) => Math.log(Math.max(FLOOR, facts.lags.get(days) ?? 0)),
    dayCut: Math.log(share / by),
    withinDay: Math.log((1 - share) / (1 - by)),
  };
}

/** Margins below this leave a line as good as open, so that a near run may explain it instead. */
const WEAK = 3;

/**
 * Where one line lies alone between two runs that are sure, or between a sure run and an edge of what is known: all that is
 * between belongs to it, but for what was held back.
 */
function gapsOf(
  sequence: Sequence,
  set: LineSet,
  sweeps: readonly Sweep[],
  habit: SweepHabit,
): { readonly alone: Gap[]; readonly shared: SharedGap[] } {
  const sure = sweeps.filter(({ margin }) => margin >= WEAK).sort((a, b) => a.from - b.from);
  const explained = new Set(sure.map(({ line }) => line));
  const [alone, shared]: [Gap[], SharedGap[]] = [[], []];
  const edges: number[] = [];
  for (let boundary = 1; boundary < sequence.size; boundary++) if (sequence.isKnownEdge(boundary)) edges.push(boundary);
  const stops = [...new Set([0, ...edges, ...sure.flatMap(({ from, to }) => [from, to])])].sort((a, b) => a - b);
  const covered = new Set(sure.map(({ from }) => from));
  const used = new Set<number>();
  for (const [n, from] of stops.entries()) {
    const to = stops[n + 1];
    if (to === undefined || covered.has(from)) continue;
    const [first, last] = [sequence.day[from]!, sequence.day[to - 1]!];
    if (last - first > 2 * habit.longestSpan) continue;
    const whole = sequence.total[to]! - sequence.total[from]!;
    const within: number[] = [];
    for (let at = set.firstOf(first + habit.shortestLag); at < set.firstOf(last + habit.longestLag + 1); at++) {
      if (!explained.has(at) && !used.has(at)) within.push(at);
    }
    const pair = pairOf(set, within, whole);
    if (pair) {
      pair.forEach((line) => used.add(line));
      shared.push({ lines: pair, from, to });
      continue;
    }
    if (last - first > habit.longestSpan) continue;
    // Others in the same days may be of other channels; the nearest in amount is the one that can be this.
    const off = (line: number) => Math.abs(set.lines[line]!.amount - whole);
    const near = within
      .filter((line) => set.days[line]! >= last + habit.shortestLag)
      .sort((a, b) => off(a) - off(b) || a - b)[0];
    if (near !== undefined) alone.push({ line: near, from, to });
  }
  return { alone, shared };
}

/** The only two lines that together are all of a gap; null where there are none, or several such. */
function pairOf(set: LineSet, within: readonly number[], whole: number): readonly [number, number] | null {
  if (within.length > 60) return null;
  const pairs: [number, number][] = [];
  for (const [n, a] of within.entries()) {
    for (const b of within.slice(n + 1)) if (set.lines[a]!.amount + set.lines[b]!.amount === whole) pairs.push([a, b]);
  }
  return pairs.length === 1 ? pairs[0]! : null;
}

/**
 * Finds the runs of receipts that deposits are which name no payout (stage 5): runs of one channel in its own order that come to
 * the amount to the cent, tiled, and weighed against how often such an amount is hit by accident. Looks twice: what the first
 * look is sure of teaches the lags and cuts that the second one weighs with.
 */
export function findSweeps(
  receipts: ReceiptColumns,
  set: LineSet,
  habit: SweepHabit,
  known: SweepFacts | null = null,
): Sweeps {
  const sequence = new Sequence(receipts);
  const c = candidatesOf(sequence, set, habit);
  let facts = known;
  if (facts === null) {
    const first = chooseChains(sequence, set.days, c, firstWeights(habit, startsOf(sequence, habit)));
    facts = learn(sequence, set.days, c, first);
  }
  const chosen = chooseChains(sequence, set.days, c, learntWeights(facts, habit, sequence));
  const ends = new Set<number>();
  const begins = new Set<number>();
  for (const at of chosen.candidate) {
    if (at < 0) continue;
    ends.add(c.to[at]!);
    begins.add(c.from[at]!);
  }
  const sweeps: Sweep[] = [];
  const tilings = new Tilings(c);
  for (let line = 0; line < chosen.candidate.length; line++) {
    const at = chosen.candidate[line]!;
    if (at < 0) continue;
    const [from, to] = [c.from[at]!, c.to[at]!];
    const others = c.first[line + 1]! - c.first[line]! - 1;
    const [knownFrom, knownTo] = [sequence.isKnownEdge(from), sequence.isKnownEdge(to)];
    const between = knownFrom && knownTo && others === 0;
    sweeps.push({
      line,
      from,
      to,
      margin: chosen.margin[line]!,
      joinedBefore: ends.has(from) || knownFrom,
      joinedAfter: begins.has(to) || knownTo,
      between,
      tiledOtherwise: between && tilings.without(line, from, to),
    });
  }
  const { alone, shared } = gapsOf(sequence, set, sweeps, habit);
  const near = [
    ...findHeldBack(sequence, set.lines, alone),
    ...findExchanged(sequence, set.lines, shared, facts.learntFrom >= FEWEST_LESSONS && facts.dayCuts > 0.95),
  ];
  return { sequence, sweeps, near, facts, candidates: c };
}
