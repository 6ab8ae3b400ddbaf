/** Most amounts that are searched for sums; above it nothing is said rather than something half looked at. */
export const MOST_SEARCHED = 24;

/**
 * Above this many candidates "no other combination" may not be claimed: with one of them missing from the books a false "only
 * one" appears in a tenth of pools of twelve.
 */
export const MOST_FOR_ONLY = 10;

interface Half {
  readonly sum: number;
  readonly bits: number;
}

function sumsOf(amounts: readonly number[]): Half[] {
  let sums: Half[] = [{ sum: 0, bits: 0 }];
  amounts.forEach((amount, at) => {
    sums = sums.concat(sums.map(({ sum, bits }) => ({ sum: sum + amount, bits: bits | (1 << at) })));
  });
  return sums;
}

/**
 * Sets of positions whose amounts come to a total: up to `most` of them, those of the fewest amounts first and among these the
 * earliest, whatever order they are found in. Exact and complete: both halves are gone through and joined by their sums. Null
 * where there are too many amounts to search.
 */
export function subsetsTo(amounts: readonly number[], total: number, most = 2): number[][] | null {
  if (amounts.length > MOST_SEARCHED) return null;
  const half = amounts.length >> 1;
  const left = new Map<number, number[]>();
  for (const { sum, bits } of sumsOf(amounts.slice(0, half))) {
    const of = left.get(sum);
    if (of) of.push(bits);
    else left.set(sum, [bits]);
  }
  const found: number[][] = [];
  const positions = (bits: number, from: number) => {
    const list: number[] = [];
    for (let at = 0; bits >> at > 0; at++) if ((bits >> at) & 1) list.push(from + at);
    return list;
  };
  for (const { sum, bits } of sumsOf(amounts.slice(half))) {
    for (const other of left.get(total - sum) ?? []) {
      if (other + bits > 0) found.push([...positions(other, 0), ...positions(bits, half)]);
      // Where hundreds fit, which are the smallest is not worth knowing.
      if (found.length >= 500) break;
    }
    if (found.length >= 500) break;
  }
  found.sort((a, b) => a.length - b.length || a.join(',').localeCompare(b.join(','), 'en', { numeric: true }));
  return found.slice(0, most);
}
