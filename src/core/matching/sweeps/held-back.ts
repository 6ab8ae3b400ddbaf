import type { SweepLine } from './candidates';
import type { Sequence } from './receipts';

/** A run between two others of which some receipts were held back, or that earlier ones came along with. */
export interface NearSweep {
  /** Place of the line in its set. */
  readonly line: number;
  readonly from: number;
  readonly to: number;
  /** Positions in the run that its payout does not carry. */
  readonly without: readonly number[];
  /** Positions before the run that came with it: held back before. */
  readonly late: readonly number[];
  /** How many ways to make up the difference there would be by accident. */
  readonly byChance: number;
}

/** A gap between runs that are known, with the one line that lies in it. */
export interface Gap {
  readonly line: number;
  readonly from: number;
  readonly to: number;
}

/** Receipts looked through for those that make up a difference; more of them prove nothing. */
const MOST_LOOKED_AT = 4_000;
const MOST_HELD = 3;

/**
 * Sets of up to three positions whose receipts come to an amount, the smallest sets first; all sets of the first size that has
 * any, up to two, since two already say that it cannot be told.
 */
export function setsOf(nets: readonly number[], amount: number): readonly (readonly number[])[] {
  const singles = nets.flatMap((net, at) => (net === amount ? [[at]] : []));
  if (singles.length > 0 || nets.length > MOST_LOOKED_AT) return singles.slice(0, 2);
  const byNet = new Map<number, number[]>();
  nets.forEach((net, at) => {
    const of = byNet.get(net);
    if (of) of.push(at);
    else byNet.set(net, [at]);
  });
  const pairs: number[][] = [];
  for (let a = 0; a < nets.length && pairs.length < 2; a++) {
    for (const b of byNet.get(amount - nets[a]!) ?? []) if (b > a && pairs.length < 2) pairs.push([a, b]);
  }
  if (pairs.length > 0 || nets.length > 400) return pairs;
  const triples: number[][] = [];
  for (let a = 0; a < nets.length && triples.length < 2; a++) {
    for (let b = a + 1; b < nets.length && triples.length < 2; b++) {
      for (const c of byNet.get(amount - nets[a]! - nets[b]!) ?? [])
        if (c > b && triples.length < 2) triples.push([a, b, c]);
    }
  }
  return triples;
}

/** How many sets of this size would come to an amount by accident: their number over the spread of their sums. */
function accidents(nets: readonly number[], size: number): number {
  const spread = Math.max(1, ...nets) - Math.min(0, ...nets);
  let ways = 1;
  for (let n = 0; n < size; n++) ways = (ways * (nets.length - n)) / (n + 1);
  return ways / Math.max(1, spread * size);
}

/**
 * Explains lines that lie alone between two known runs but are not all of what is between: one to three receipts held back for a
 * later payout, or held back before and carried now. Goes through the gaps in their order, since what one leaves over another
 * takes up.
 * @param gaps in the order of the sequence.
 */
export function findHeldBack(sequence: Sequence, lines: readonly SweepLine[], gaps: readonly Gap[]): NearSweep[] {
  const found: NearSweep[] = [];
  let over: number[] = [];
  const netAt = (position: number) => sequence.total[position + 1]! - sequence.total[position]!;
  for (const { line, from, to } of gaps) {
    const { amount } = lines[line]!;
    const difference = sequence.total[to]! - sequence.total[from]! - amount;
    if (difference === 0) continue;
    const held = difference > 0;
    const pool = held ? Array.from({ length: to - from }, (_, n) => from + n) : over;
    const nets = pool.map(netAt);
    const sets = setsOf(nets, Math.abs(difference)).filter((set) => set.length <= MOST_HELD && set.length < to - from);
    const [set] = sets;
    if (set === undefined) continue;
    const positions = set.map((at) => pool[at]!);
    const byChance = sets.length > 1 ? 1 : accidents(nets, set.length);
    found.push({ line, from, to, without: held ? positions : [], late: held ? [] : positions, byChance });
    over = held ? [...over, ...positions] : over.filter((position) => !positions.includes(position));
  }
  return found;
}

/** A gap that two lines share: together they are all that is between. */
export interface SharedGap {
  readonly lines: readonly [number, number];
  readonly from: number;
  readonly to: number;
}

/** More boundaries than this between two runs, and the cut between them is anybody's guess. */
const MOST_CUTS = 400;

/**
 * Explains two lines that together are exactly what lies between two known runs, but for one or two receipts that the first left
 * over to the second. Where they are cut is tried at every boundary, those where a day begins alone if the channel cuts there.
 * @param dayCuts whether the channel's known runs are cut where days begin.
 */
export function findExchanged(
  sequence: Sequence,
  lines: readonly SweepLine[],
  gaps: readonly SharedGap[],
  dayCuts: boolean,
): NearSweep[] {
  const found: NearSweep[] = [];
  for (const { lines: pair, from, to } of gaps) {
    const cuts: number[] = [];
    for (let at = from + 1; at < to; at++) if (!dayCuts || sequence.isDayCut(at)) cuts.push(at);
    if (cuts.length > MOST_CUTS) continue;
    const ways: { readonly cut: number; readonly set: readonly number[]; readonly nets: readonly number[] }[] = [];
    for (const cut of cuts) {
      const difference = sequence.total[cut]! - sequence.total[from]! - lines[pair[0]]!.amount;
      if (difference <= 0) continue;
      const nets = Array.from(
        { length: cut - from },
        (_, n) => sequence.total[from + n + 1]! - sequence.total[from + n]!,
      );
      for (const set of setsOf(nets, difference)) {
        if (set.length <= 2 && set.length < cut - from) ways.push({ cut, set, nets });
      }
      if (ways.length > 1) break;
    }
    const [way] = ways;
    if (way === undefined) continue;
    const positions = way.set.map((at) => from + at);
    const byChance = ways.length > 1 ? 1 : Math.min(1, cuts.length * accidents(way.nets, way.set.length));
    found.push({ line: pair[0], from, to: way.cut, without: positions, late: [], byChance });
    found.push({ line: pair[1], from: way.cut, to, without: [], late: positions, byChance });
  }
  return found;
}
