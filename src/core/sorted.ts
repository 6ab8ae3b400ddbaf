/** The place of the first item that is not before something, in items of which all that are before it stand first. */
export function firstNotBefore<T>(sorted: readonly T[], isBefore: (item: T) => boolean): number {
  let [low, high] = [0, sorted.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (isBefore(sorted[middle]!)) low = middle + 1;
    else high = middle;
  }
  return low;
}
