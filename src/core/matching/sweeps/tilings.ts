import type { Candidates } from './candidates';

/** Steps after which a tiling counts as found: what cannot be ruled out is not proven. */
const MOST_STEPS = 2_000;

/**
 * Tells whether what lies between two boundaries is also explained, to the last receipt, by runs of other lines: then it has more
 * than one solution, however well one line comes to all of it.
 */
export class Tilings {
  private readonly startingAt = new Map<number, number[]>();

  constructor(private readonly candidates: Candidates) {
    for (let at = 0; at < candidates.count; at++) {
      const list = this.startingAt.get(candidates.from[at]!);
      if (list) list.push(at);
      else this.startingAt.set(candidates.from[at]!, [at]);
    }
  }

  without(line: number, from: number, to: number): boolean {
    const { line: lineOf, to: toOf } = this.candidates;
    const used = new Set([line]);
    let steps = 0;
    const cover = (boundary: number): boolean => {
      if (boundary === to) return true;
      for (const at of this.startingAt.get(boundary) ?? []) {
        if (++steps > MOST_STEPS) return true;
        const by = lineOf[at]!;
        if (toOf[at]! > to || used.has(by)) continue;
        used.add(by);
        if (cover(toOf[at]!)) return true;
        used.delete(by);
      }
      return false;
    };
    return cover(from);
  }
}
