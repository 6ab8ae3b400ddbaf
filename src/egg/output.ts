import { refusalWords, type Change, type Refusal, type Result } from '@/books/command';

/** What a script can tell by; see docs/command-line.md. */
export const EXIT = { done: 0, refused: 1, usage: 2, partly: 3, failed: 4 } as const;

/** Where an answer goes, and what is wrong. */
export interface Out {
  say(text: string): void;
  wrong(text: string): void;
}

/** It was not said rightly what is to be done. */
export class UsageError extends Error {}

/** A command's answer: what it says to a person, and the same as data. */
export interface Answer {
  readonly value: unknown;
  /** Lines of text; a table is aligned already. */
  readonly text: readonly string[];
  readonly change?: Change | null;
  readonly refusal?: Refusal;
  /** Some of what a file holds was refused, the rest came in. */
  readonly partly?: boolean;
}

export const answer = (value: unknown, text: readonly string[], more: Partial<Answer> = {}): Answer => ({
  value,
  text,
  ...more,
});

/** The answer of a command of the books; a refusal says what and what next. */
export function answerOf<T>(
  result: Result<T>,
  say: (value: T) => readonly string[],
  partly: (value: T) => boolean = () => false,
): Answer {
  if (!result.ok) return { value: null, text: [], refusal: result.refusal };
  const change = result.change ? [`${result.change.summary} (change ${result.change.audit})`] : [];
  return {
    value: result.value,
    text: [...say(result.value), ...change],
    change: result.change,
    partly: partly(result.value),
  };
}

/** How many are wanted, as --limit says it. */
export function limitOf(text: string | undefined): number | null {
  if (text === undefined) return null;
  const most = Number(text);
  if (!/^\d{1,9}$/.test(text) || most < 1) throw new UsageError('--limit is a whole number above nothing.');
  return most;
}

/** Columns side by side; those that hold figures stand to the right. */
export function aligned(
  head: readonly string[],
  rows: readonly (readonly string[])[],
  figures: readonly number[],
): string[] {
  const widths = head.map((title, column) => Math.max(title.length, ...rows.map((row) => (row[column] ?? '').length)));
  const line = (row: readonly string[]) =>
    row
      .map((cell, column) => (figures.includes(column) ? cell.padStart(widths[column]!) : cell.padEnd(widths[column]!)))
      .join('  ')
      .trimEnd();
  return [line(head), ...rows.map(line)];
}

/** Prints an answer; gives the code to end with. */
export function print({ value, text, change, refusal, partly }: Answer, json: boolean, out: Out): number {
  if (refusal) {
    const words = refusalWords(refusal);
    if (json) out.say(JSON.stringify({ ok: false, refusal, ...words }));
    else out.wrong(`${words.what} ${words.next}`.trim());
    return EXIT.refused;
  }
  if (json) out.say(JSON.stringify({ ok: true, value, change: change ?? null }));
  else for (const line of text) out.say(line);
  return partly ? EXIT.partly : EXIT.done;
}
