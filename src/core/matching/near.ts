/** Shorter than this, one letter more or less makes another word of anything. */
const SHORTEST = 4;

/** Whether one letter put in, left out, exchanged, or two neighbours turned, makes one of the other; equal ones are not near. */
export function oneEditAway(a: string, b: string): boolean {
  const [short, long] = a.length <= b.length ? [a, b] : [b, a];
  if (short.length < SHORTEST || long.length - short.length > 1 || a === b) return false;
  let from = 0;
  while (from < short.length && short[from] === long[from]) from++;
  let end = 0;
  while (end < short.length - from && short.at(-1 - end) === long.at(-1 - end)) end++;
  const [left, right] = [short.length - from - end, long.length - from - end];
  if (left <= 1 && right <= 1) return true;
  return left === 2 && right === 2 && short[from] === long[from + 1] && short[from + 1] === long[from];
}

/** The word among these that is one edit away; null where there is none. */
export function nearOne(words: Iterable<string>, key: string): string | null {
  for (const word of words) if (oneEditAway(word, key)) return word;
  return null;
}
