import type { Sequence } from './receipts';

/** A deposit that may be a run of receipts. Day since 1970-01-01, amount in minor units. */
export interface SweepLine {
  readonly id: number;
  readonly day: number;
  readonly amount: number;
}

/** What is known of a channel's payouts beforehand; days are days of the calendar. */
export interface SweepHabit {
  /** From the last receipt of a run to the bank. */
  readonly shortestLag: number;
  readonly longestLag: number;
  /** From the first receipt of a run to its last. */
  readonly longestSpan: number;
}

/** Runs that come to a line's amount, as columns: line, first boundary, last boundary. */
export interface Candidates {
  readonly count: number;
  readonly line: Int32Array;
  readonly from: Int32Array;
  readonly to: Int32Array;
  /** Where the candidates of each line begin; one longer than the lines. */
  readonly first: Int32Array;
  /** Of each line: how many runs would come to its amount by accident, measured where none can be right. */
  readonly byChance: Float64Array;
}

/** Whole weeks, so that a decoy looks at the same days of the week. */
const DECOYS = [-28, -21, -14, 14, 21, 28];
/** Lines whose amounts are looked up at wrong days; the others take after them. */
const MEASURED = 600;
/** More runs than this for one line say nothing about it. */
const MOST = 64;

/** Calls for each run of receipts that comes to an amount and ends in time for a day. */
function eachRun(
  sequence: Sequence,
  { amount }: SweepLine,
  day: number,
  habit: SweepHabit,
  take: (from: number, to: number) => void,
): void {
  const { total, part } = sequence;
  const last = sequence.boundaryOf(day - habit.shortestLag + 1);
  for (let to = sequence.boundaryOf(day - habit.longestLag) + 1; to <= last; to++) {
    const earliest = sequence.day[to - 1]! - habit.longestSpan;
    const wanted = part[to - 1]!;
    sequence.eachAt(total[to]! - amount, (from) => {
      if (from < to && part[from] === wanted && sequence.day[from]! >= earliest) take(from, to);
    });
  }
}

/**
 * Every run that comes to a line's amount, and how many would by accident. The accident is measured and not assumed: the same
 * amounts are looked up at days that are whole weeks off, where a hit is none of the line's own.
 */
export function candidatesOf(sequence: Sequence, lines: readonly SweepLine[], habit: SweepHabit): Candidates {
  const found: number[] = [];
  const first = new Int32Array(lines.length + 1);
  let count = 0;
  for (const [index, line] of lines.entries()) {
    const before = count;
    eachRun(sequence, line, line.day, habit, (from, to) => {
      if (count - before < MOST) {
        found.push(index, from, to);
        count++;
      }
    });
    first[index + 1] = count;
  }
  const columns = { line: new Int32Array(count), from: new Int32Array(count), to: new Int32Array(count) };
  for (let at = 0; at < count; at++) {
    columns.line[at] = found[3 * at]!;
    columns.from[at] = found[3 * at + 1]!;
    columns.to[at] = found[3 * at + 2]!;
  }
  return { count, ...columns, first, byChance: chance(sequence, lines, habit) };
}

const sizeOf = (amount: number) => Math.min(31, Math.max(0, Math.round(2 * Math.log2(Math.max(1, amount / 100)))));

/** Accidental hits by the size of the amount: longer runs have more ways to come to it by accident. */
function chance(sequence: Sequence, lines: readonly SweepLine[], habit: SweepHabit): Float64Array {
  const hits = new Float64Array(32);
  const looked = new Float64Array(32);
  const step = Math.max(1, Math.floor(lines.length / MEASURED));
  for (let index = 0; index < lines.length; index += step) {
    const line = lines[index]!;
    const size = sizeOf(line.amount);
    for (const days of DECOYS) {
      looked[size]!++;
      eachRun(sequence, line, line.day + days, habit, () => hits[size]!++);
    }
  }
  return Float64Array.from(lines, (line) => {
    const size = sizeOf(line.amount);
    let [n, of] = [0, 0];
    // Sizes beside it are heard too, so that a size with few lines is not taken for one without accidents.
    for (let at = Math.max(0, size - 1); at <= Math.min(31, size + 1); at++) {
      n += hits[at]!;
      of += looked[at]!;
    }
    return (n + 0.5) / (of + 10);
  });
}
