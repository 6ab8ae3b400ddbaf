import { normaliseText, referenceKey } from '@/core/matching';

/** A line as it is compared with another of the same account, day and amount. */
export interface LineWords {
  readonly id: number;
  readonly bankId: string;
  readonly reference: string;
  readonly words: ReadonlySet<string>;
}

/** The words of a line: of its text, its counterparty and its reference. */
export function wordsOf(line: {
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
}): Set<string> {
  return new Set(normaliseText(`${line.text} ${line.counterparty} ${line.reference}`).split(' ').filter(Boolean));
}

/** A word in more than this part of the lines of a file says nothing about one of them. */
const COMMON = 0.05;
const RARE_ANYWAY = 3;

/** Tells the words that say something about one line from those that stand in many. */
export class Rarity {
  private readonly counts = new Map<string, number>();
  private lines = 0;

  add(words: ReadonlySet<string>): void {
    this.lines++;
    for (const word of words) this.counts.set(word, (this.counts.get(word) ?? 0) + 1);
  }

  isRare(word: string): boolean {
    const count = this.counts.get(word) ?? 0;
    return count <= Math.max(RARE_ANYWAY, this.lines * COMMON);
  }
}

const SHORTEST_KEY = 4;
const within = (a: ReadonlySet<string>, b: ReadonlySet<string>) => [...a].every((word) => b.has(word));

/**
 * How sure it is that two lines of one account, day and amount, told by two formats, are one: 0 where nothing says so. Banks
 * cut and order their text differently in each format, so words are compared and not texts; words that are rare on both
 * sides and not shared speak against it.
 */
export function sameness(a: LineWords, b: LineWords, rarity: Rarity): number {
  if (a.bankId !== '' && a.bankId === b.bankId) return 5;
  const [one, other] = [referenceKey(a.reference), referenceKey(b.reference)];
  if (one.length >= SHORTEST_KEY && one === other) return 4;
  if (within(a.words, b.words) && within(b.words, a.words)) return 3;
  if (within(a.words, b.words) || within(b.words, a.words)) return 2;
  return [...a.words].some((word) => word.length > 1 && rarity.isRare(word) && b.words.has(word)) ? 1 : 0;
}

/** Pairs lines one to one, surest first; the same whatever order they come in. */
export function pairSame(
  staged: readonly LineWords[],
  here: readonly LineWords[],
  rarity: Rarity,
): Map<number, number> {
  const pairs = staged
    .flatMap((a) => here.map((b) => ({ a: a.id, b: b.id, sure: sameness(a, b, rarity) })))
    .filter(({ sure }) => sure > 0)
    .sort((x, y) => y.sure - x.sure || x.a - y.a || x.b - y.b);
  const of = new Map<number, number>();
  const taken = new Set<number>();
  for (const { a, b } of pairs) {
    if (of.has(a) || taken.has(b)) continue;
    of.set(a, b);
    taken.add(b);
  }
  return of;
}
