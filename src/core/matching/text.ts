/** Banks mostly write plain letters, for which the character classes of all scripts need not be asked. */
const PLAIN = /^[ -~]*$/;

/** The bank's text as compared: upper case, one space between runs of letters and digits, nothing cut. */
export function normaliseText(text: string): string {
  const upper = text.toUpperCase();
  return (PLAIN.test(upper) ? upper.replace(/[^A-Z0-9]+/g, ' ') : upper.replace(/[^\p{L}\p{N}]+/gu, ' ')).trim();
}

/** A reference as compared: letters and digits only, so that "P-2231", "P 2231" and "p2231" are one. */
export function referenceKey(reference: string): string {
  return reference.toUpperCase().replace(/[^\p{L}\p{N}]+/gu, '');
}

/** How many neighbouring tokens a reference may have been broken into by the bank. */
const MOST_PIECES = 3;
const SHORTEST_REFERENCE = 4;

/** Every run of one to three neighbouring tokens of a text, put together: where a reference could stand. */
export function referenceKeysIn(text: string): Set<string> {
  const tokens = normaliseText(text).split(' ');
  const keys = new Set<string>();
  for (let from = 0; from < tokens.length; from++) {
    let key = '';
    for (let to = from; to < Math.min(tokens.length, from + MOST_PIECES); to++) {
      key += tokens[to];
      if (key.length >= SHORTEST_REFERENCE && /\d/.test(key)) keys.add(key);
    }
  }
  return keys;
}
