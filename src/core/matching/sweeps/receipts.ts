/**
 * The receipts of one channel in its own order, as columns: what a deposit that names no payout may be a run of. Days are days
 * since 1970-01-01, net is what a receipt brings to the bank in minor units.
 */
export interface ReceiptColumns {
  readonly count: number;
  readonly id: Int32Array;
  readonly day: Int32Array;
  readonly net: Float64Array;
  /** 1 where a payout that is known carries it, or a match: it is in no run, and parts what is before from what is behind. */
  readonly taken: Uint8Array;
}

/** Where each of many numbers stands: chains in typed arrays, no object per entry. */
export class NumberIndex {
  private readonly heads: Int32Array;
  private readonly next: Int32Array;
  private readonly mask: number;

  constructor(private readonly numbers: Float64Array) {
    let slots = 16;
    while (slots < 2 * numbers.length) slots *= 2;
    this.mask = slots - 1;
    this.heads = new Int32Array(slots).fill(-1);
    this.next = new Int32Array(numbers.length).fill(-1);
    for (let at = numbers.length - 1; at >= 0; at--) {
      const slot = this.slot(numbers[at]!);
      this.next[at] = this.heads[slot]!;
      this.heads[slot] = at;
    }
  }

  private slot(number: number): number {
    // Low and high words mixed: totals of one channel lie close together.
    const low = (number % 4_294_967_296) | 0;
    const high = (number / 4_294_967_296) | 0;
    let h = Math.imul(low ^ Math.imul(high, 0x9e3779b1), 0x85ebca6b);
    h ^= h >>> 15;
    return (Math.imul(h, 0xc2b2ae35) >>> 7) & this.mask;
  }

  /** The first place at which a number stands, -1 where it stands nowhere. */
  first(number: number): number {
    return this.from(this.heads[this.slot(number)]!, number);
  }

  /** The next place after one at which the same number stands. */
  after(place: number): number {
    return this.from(this.next[place]!, this.numbers[place]!);
  }

  private from(place: number, number: number): number {
    let at = place;
    while (at >= 0 && this.numbers[at] !== number) at = this.next[at]!;
    return at;
  }
}

/** Receipts that are taken one by one, within a run, part nothing: a payout is more than one receipt. */
const BARRIER = 2;

/**
 * The free receipts of a channel with their running total. Boundary k lies before the k-th of them, so a run is two boundaries
 * and its sum a difference of two totals.
 */
export class Sequence {
  readonly size: number;
  /** Row of each free receipt in the columns. */
  readonly row: Int32Array;
  readonly day: Int32Array;
  /** Total before each boundary; one longer than the receipts. */
  readonly total: Float64Array;
  /** Which part between known payouts each free receipt is in: a run stays within one. */
  readonly part: Int32Array;
  private readonly totals: NumberIndex;

  constructor(receipts: ReceiptColumns) {
    let size = 0;
    for (let row = 0; row < receipts.count; row++) if (receipts.taken[row] === 0) size++;
    this.size = size;
    this.row = new Int32Array(size);
    this.day = new Int32Array(size);
    this.part = new Int32Array(size);
    this.total = new Float64Array(size + 1);
    let at = 0;
    let part = 0;
    let between = 0;
    for (let row = 0; row < receipts.count; row++) {
      if (receipts.taken[row] === 1) {
        between++;
        continue;
      }
      if (between >= BARRIER && at > 0) part++;
      between = 0;
      this.row[at] = row;
      this.day[at] = receipts.day[row]!;
      this.part[at] = part;
      this.total[at + 1] = this.total[at]! + receipts.net[row]!;
      at++;
    }
    this.totals = new NumberIndex(this.total);
  }

  /** Calls for each boundary, earliest first, before which the receipts come to a total. */
  eachAt(total: number, take: (boundary: number) => void): void {
    for (let boundary = this.totals.first(total); boundary >= 0; boundary = this.totals.after(boundary)) take(boundary);
  }

  /** The first boundary all of whose receipts before it are of a day before the given one. */
  boundaryOf(day: number): number {
    let [low, high] = [0, this.size];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (this.day[middle]! < day) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  /** Whether a day of the channel begins here. */
  isDayCut(boundary: number): boolean {
    return boundary === 0 || boundary === this.size || this.day[boundary] !== this.day[boundary - 1];
  }

  /** Whether what is known begins or ends here: the history, or a known payout. */
  isKnownEdge(boundary: number): boolean {
    return boundary === 0 || (boundary < this.size && this.part[boundary] !== this.part[boundary - 1]);
  }
}
