import type { Candidates } from './candidates';
import type { Sequence } from './receipts';

/** What weighs for or against a candidate beside its amount, as logarithms of odds. */
export interface Weights {
  /** By days of the calendar from the last receipt to the bank. */
  readonly lag: (days: number) => number;
  /** Of a boundary where a day of the channel begins, and of one within a day. */
  readonly dayCut: number;
  readonly withinDay: number;
  /** Of beginning where the run before ends, or where a known payout ends. */
  readonly joined: number;
}

/** Which run each line is, and by how much that is better than any other way. */
export interface Chosen {
  /** Of each line the candidate, or -1. */
  readonly candidate: Int32Array;
  /** Of each line by how much (natural logarithm of odds) the chosen chain beats the best one without this candidate. */
  readonly margin: Float64Array;
}

/** Greatest value at or below a position, with where it came from. */
class PrefixBest {
  private readonly value: Float64Array;
  private readonly source: Int32Array;

  constructor(private readonly size: number) {
    this.value = new Float64Array(size + 2);
    this.source = new Int32Array(size + 2).fill(-1);
  }

  put(position: number, value: number, source: number): void {
    for (let at = position + 1; at <= this.size + 1; at += at & -at) {
      if (value > this.value[at]!) {
        this.value[at] = value;
        this.source[at] = source;
      }
    }
  }

  /** The best of all up to and with a position; nothing is worth 0 and comes from -1. */
  upTo(position: number): { value: number; source: number } {
    let [value, source] = [0, -1];
    for (let at = position + 1; at > 0; at -= at & -at) {
      if (this.value[at]! > value) [value, source] = [this.value[at]!, this.source[at]!];
    }
    return { value, source };
  }
}

/** What a candidate is worth by itself: how little its amount is an accident, its lag, where it is cut. */
function ownWeights(sequence: Sequence, lineDays: Int32Array, c: Candidates, weights: Weights): Float64Array {
  return Float64Array.from({ length: c.count }, (_, at) => {
    const [line, from, to] = [c.line[at]!, c.from[at]!, c.to[at]!];
    const cut = (boundary: number) => (sequence.isDayCut(boundary) ? weights.dayCut : weights.withinDay);
    return -Math.log(c.byChance[line]!) + weights.lag(lineDays[line]! - sequence.day[to - 1]!) + cut(from) + cut(to);
  });
}

/**
 * The best chain through the candidates of lines in the order of their days: each line at most once, each run behind the one
 * before. Gives for every candidate the best chain that ends with it, and which candidate is before it there.
 */
function forward(sequence: Sequence, c: Candidates, own: Float64Array, weights: Weights, lines: number) {
  const best = new Float64Array(c.count);
  const before = new Int32Array(c.count).fill(-1);
  const prefix = new PrefixBest(sequence.size + 1);
  const endingAt = new Map<number, number>();
  for (let line = 0; line < lines; line++) {
    const [from, to] = [c.first[line]!, c.first[line + 1]!];
    for (let at = from; at < to; at++) {
      const start = c.from[at]!;
      const free = prefix.upTo(start);
      const known = sequence.isKnownEdge(start) ? weights.joined : 0;
      let [value, source] = [free.value + known, free.source];
      const joined = endingAt.get(start);
      if (joined !== undefined && best[joined]! + weights.joined > value) {
        [value, source] = [best[joined]! + weights.joined, joined];
      }
      const end = sequence.isKnownEdge(c.to[at]!) ? weights.joined : 0;
      best[at] = value + own[at]! + end;
      before[at] = source;
    }
    // A line is in a chain once: what it adds is seen from the next line on.
    for (let at = from; at < to; at++) {
      const end = c.to[at]!;
      prefix.put(end, best[at]!, at);
      const other = endingAt.get(end);
      if (other === undefined || best[other]! < best[at]!) endingAt.set(end, at);
    }
  }
  return { best, before };
}

/** The same from the other end: the best chain that begins with each candidate. */
function backward(sequence: Sequence, c: Candidates, own: Float64Array, weights: Weights, lines: number): Float64Array {
  const best = new Float64Array(c.count);
  const suffix = new PrefixBest(sequence.size + 1);
  const beginningAt = new Map<number, number>();
  const mirrored = (boundary: number) => sequence.size - boundary;
  for (let line = lines - 1; line >= 0; line--) {
    const [from, to] = [c.first[line]!, c.first[line + 1]!];
    for (let at = from; at < to; at++) {
      const end = c.to[at]!;
      const known = sequence.isKnownEdge(end) ? weights.joined : 0;
      let value = suffix.upTo(mirrored(end)).value + known;
      const joined = beginningAt.get(end);
      if (joined !== undefined) value = Math.max(value, best[joined]! + weights.joined);
      const start = sequence.isKnownEdge(c.from[at]!) ? weights.joined : 0;
      best[at] = value + own[at]! + start;
    }
    for (let at = from; at < to; at++) {
      const start = c.from[at]!;
      suffix.put(mirrored(start), best[at]!, at);
      const other = beginningAt.get(start);
      if (other === undefined || best[other]! < best[at]!) beginningAt.set(start, at);
    }
  }
  return best;
}

/**
 * Chooses runs for lines by weighing whole chains: the end of one sweep is the start of the next, so a run that joins its
 * neighbours is worth far more than one that only has the right sum.
 */
export function chooseChains(sequence: Sequence, lineDays: Int32Array, c: Candidates, weights: Weights): Chosen {
  const lines = lineDays.length;
  const own = ownWeights(sequence, lineDays, c, weights);
  const { best, before } = forward(sequence, c, own, weights, lines);
  const after = backward(sequence, c, own, weights, lines);
  const edge = (at: number) =>
    (sequence.isKnownEdge(c.from[at]!) ? weights.joined : 0) + (sequence.isKnownEdge(c.to[at]!) ? weights.joined : 0);
  // A candidate in the middle is in both; what lies at its known edges was counted from each side once.
  const through = (at: number) => best[at]! + after[at]! - own[at]! - edge(at);
  let end = -1;
  for (let at = 0; at < c.count; at++) if (end < 0 || best[at]! > best[end]!) end = at;
  const candidate = new Int32Array(lines).fill(-1);
  const margin = new Float64Array(lines);
  if (end < 0 || best[end]! <= 0) return { candidate, margin };
  const chain: number[] = [];
  for (let at = end; at >= 0; at = before[at]!) chain.push(at);
  chain.reverse();
  for (const [index, at] of chain.entries()) {
    const line = c.line[at]!;
    candidate[line] = at;
    // Without it: another run for the same line, or none, which loses what it and its joints are worth.
    const previous = index > 0 ? chain[index - 1]! : -1;
    const following = index + 1 < chain.length ? chain[index + 1]! : -1;
    const joints =
      (previous >= 0 && c.to[previous] === c.from[at] ? weights.joined : 0) +
      (following >= 0 && c.from[following] === c.to[at] ? weights.joined : 0);
    let gain = own[at]! + edge(at) + joints;
    for (let other = c.first[line]!; other < c.first[line + 1]!; other++) {
      if (other !== at) gain = Math.min(gain, through(at) - through(other));
    }
    margin[line] = gain;
  }
  return { candidate, margin };
}
