import { normaliseText } from './text';

/** A payer by one of the names they appear under. */
export interface NamedPayer {
  readonly payer: number;
  readonly name: string;
}

/** Words that stand in many names and in banks' own phrases: alone they name nobody. */
const SHORTEST_NAME = 4;

/**
 * Finds payers by name in a bank's text: all words of a name, one behind the other, in either order of first and last name. A
 * name of one short word is not looked for: it would be found everywhere.
 */
export class NameFinder {
  /** Ways of writing a name by their first word. */
  private readonly byFirst = new Map<string, { readonly words: readonly string[]; readonly of: NamedPayer }[]>();

  constructor(payers: readonly NamedPayer[]) {
    for (const of of payers) {
      const words = normaliseText(of.name).split(' ').filter(Boolean);
      if (words.join('').length < SHORTEST_NAME) continue;
      const turned = words.length === 2 ? [[words[1]!, words[0]!]] : [];
      for (const way of [words, ...turned]) {
        const list = this.byFirst.get(way[0]!);
        if (list) list.push({ words: way, of });
        else this.byFirst.set(way[0]!, [{ words: way, of }]);
      }
    }
  }

  /** Each payer that is named, longest name first; one whose name is within another that is found there is left out. */
  find(text: string): NamedPayer[] {
    const words = normaliseText(text).split(' ');
    const found: { readonly at: number; readonly length: number; readonly of: NamedPayer }[] = [];
    for (let at = 0; at < words.length; at++) {
      for (const { words: name, of } of this.byFirst.get(words[at]!) ?? []) {
        if (name.every((word, index) => words[at + index] === word)) found.push({ at, length: name.length, of });
      }
    }
    found.sort((a, b) => b.length - a.length || a.at - b.at || a.of.payer - b.of.payer);
    const payers = new Map<number, NamedPayer>();
    const covered: [number, number][] = [];
    for (const { at, length, of } of found) {
      if (covered.some(([from, to]) => at >= from && at + length <= to && length < to - from)) continue;
      covered.push([at, at + length]);
      if (!payers.has(of.payer)) payers.set(of.payer, of);
    }
    return [...payers.values()];
  }
}
