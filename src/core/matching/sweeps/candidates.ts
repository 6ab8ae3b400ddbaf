import { NumberIndex, type Sequence } from './receipts';

/** A deposit that may be a run of receipts. Day since 1970-01-01, amount in minor units. */
export interface SweepLine {
  readonly id: number;
  readonly day: number;
  readonly amount: number;
}

/** Deposits in the order of their days, made ready once for all channels of an account. */
export class LineSet {
  readonly lines: readonly SweepLine[];
  readonly days: Int32Array;
  private indexed: NumberIndex | null = null;

  constructor(lines: readonly SweepLine[]) {
    this.lines = [...lines].sort((a, b) => a.day - b.day || a.id - b.id);
    this.days = Int32Array.from(this.lines, (line) => line.day);
  }

  get amounts(): NumberIndex {
    this.indexed ??= new NumberIndex(Float64Array.from(this.lines, (line) => line.amount));
    return this.indexed;
  }

  /** The first line of a day or later. */
  firstOf(day: number): number {
    let [low, high] = [0, this.days.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.days[middle]! < day) low = middle + 1;
      else high = middle;
    }
    return low;
  }
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
const MEASURED = 300;
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

/** Runs as columns while they are gathered. */
class Found {
  readonly line: number[] = [];
  readonly from: number[] = [];
  readonly to: number[] = [];

  add(line: number, from: number, to: number): void {
    this.line.push(line);
    this.from.push(from);
    this.to.push(to);
  }
}

/** Looks each line's amount up at every boundary it may end at: for few lines and many receipts. */
function byLines(sequence: Sequence, { lines }: LineSet, habit: SweepHabit): Found {
  const found = new Found();
  for (const [index, line] of lines.entries()) {
    eachRun(sequence, line, line.day, habit, (from, to) => found.add(index, from, to));
  }
  return found;
}

/** Looks each run's sum up among the amounts of the lines: for few receipts and many lines. */
function byRuns(sequence: Sequence, { days, amounts }: LineSet, habit: SweepHabit): Found {
  const found = new Found();
  const { total, part, day } = sequence;
  for (let to = 1; to <= sequence.size; to++) {
    const last = day[to - 1]!;
    for (let from = to - 1; from >= 0; from--) {
      if (part[from] !== part[to - 1] || day[from]! < last - habit.longestSpan) break;
      for (let index = amounts.first(total[to]! - total[from]!); index >= 0; index = amounts.after(index)) {
        const lag = days[index]! - last;
        if (lag >= habit.shortestLag && lag <= habit.longestLag) found.add(index, from, to);
      }
    }
  }
  return found;
}

/**
 * Every run that comes to a line's amount, and how many would by accident. The accident is measured and not assumed: the same
 * amounts are looked up at days that are whole weeks off, where a hit is none of the line's own.
 */
export function candidatesOf(sequence: Sequence, set: LineSet, habit: SweepHabit): Candidates {
  const { lines } = set;
  const lags = habit.longestLag - habit.shortestLag + 1;
  const fewLines = lines.length * lags < sequence.size * (habit.longestSpan + 1);
  const found = fewLines ? byLines(sequence, set, habit) : byRuns(sequence, set, habit);
  const order = Int32Array.from(found.line, (_, at) => at).sort(
    (a, b) => found.line[a]! - found.line[b]! || found.to[a]! - found.to[b]! || found.from[a]! - found.from[b]!,
  );
  const first = new Int32Array(lines.length + 1);
  const kept: number[] = [];
  for (const at of order) {
    const line = found.line[at]!;
    if (first[line + 1]! >= MOST) continue;
    first[line + 1]!++;
    kept.push(at);
  }
  for (let line = 0; line < lines.length; line++) first[line + 1]! += first[line]!;
  return {
    count: kept.length,
    line: Int32Array.from(kept, (at) => found.line[at]!),
    from: Int32Array.from(kept, (at) => found.from[at]!),
    to: Int32Array.from(kept, (at) => found.to[at]!),
    first,
    byChance: chance(sequence, lines, habit, first),
  };
}

const sizeOf = (amount: number) => Math.min(31, Math.max(0, Math.round(2 * Math.log2(Math.max(1, amount / 100)))));

/** Accidental hits by the size of the amount: longer runs have more ways to come to it by accident. */
function chance(sequence: Sequence, lines: readonly SweepLine[], habit: SweepHabit, first: Int32Array): Float64Array {
  const hits = new Float64Array(32);
  const looked = new Float64Array(32);
  // Only amounts that some run comes to are weighed, so the accidents of these are what has to be known.
  const asked = lines.filter((_, index) => first[index + 1]! > first[index]!);
  const step = Math.max(1, Math.floor(asked.length / MEASURED));
  for (let index = 0; index < asked.length; index += step) {
    const line = asked[index]!;
    const size = sizeOf(line.amount);
    for (const days of DECOYS) {
      looked[size]!++;
      eachRun(sequence, line, line.day + days, habit, () => hits[size]!++);
    }
  }
  const rates = Float64Array.from(hits, (_, size) => {
    let [n, of] = [0, 0];
    // Sizes beside it are heard too, so that a size with few lines is not taken for one without accidents.
    for (let at = Math.max(0, size - 1); at <= Math.min(31, size + 1); at++) {
      n += hits[at]!;
      of += looked[at]!;
    }
    return (n + 0.5) / (of + 10);
  });
  const byChance = new Float64Array(lines.length);
  for (let index = 0; index < lines.length; index++) {
    if (first[index + 1]! > first[index]!) byChance[index] = rates[sizeOf(lines[index]!.amount)]!;
  }
  return byChance;
}
