import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Repeatable chance: the same seed gives the same files. */
export class Chance {
  private readonly generator;

  constructor(seed: number) {
    this.generator = xoroshiro128plus(seed);
  }

  /** A whole number from `low` to `high`, both included. */
  int(low: number, high: number): number {
    return uniformInt(this.generator, low, high);
  }

  pick<T>(list: readonly T[]): T {
    return list[this.int(0, list.length - 1)]!;
  }

  /** True in `percent` of a hundred cases. */
  in100(percent: number): boolean {
    return this.int(1, 100) <= percent;
  }
}
