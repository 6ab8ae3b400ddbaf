import { ZERO, minor, negate, type Currency, type Minor } from '../money';
import type { AccountId } from './account';
import type { Because } from './because';

/** One line of a journal entry. The amount is in minor units; a debit is positive, a credit negative. */
export interface EntryLine {
  readonly account: AccountId;
  readonly amount: Minor;
  readonly because: Because;
  /** What it is booked under on each axis of analysis: ids of dimension and value. */
  readonly dimensions?: Dimensions;
  /** The same in the account's own currency, where that is not the books'; signed alike. */
  readonly foreign?: ForeignAmount;
}

/** An amount in another currency than the books', minor units of that currency. */
export interface ForeignAmount {
  readonly currency: Currency;
  readonly amount: Minor;
}

export type Dimensions = readonly (readonly [dimension: number, value: number])[];

/** A balanced set of lines: what a recipe gives, and what is posted as one journal. */
export interface Entry {
  readonly lines: readonly EntryLine[];
}

/** A debit line, or none where the amount is nothing. A negative amount turns into a credit. */
export function debit(account: AccountId, amount: Minor, because: Because, dimensions?: Dimensions): EntryLine[] {
  if (amount === 0) return [];
  return [dimensions?.length ? { account, amount, because, dimensions } : { account, amount, because }];
}

/** A credit line, or none where the amount is nothing. A negative amount turns into a debit. */
export function credit(account: AccountId, amount: Minor, because: Because, dimensions?: Dimensions): EntryLine[] {
  return debit(account, negate(amount), because, dimensions);
}

/** The lines on this account, saying what they are in its own currency. One figure for one line. */
export function inForeign(lines: readonly EntryLine[], account: AccountId, foreign: ForeignAmount | null): EntryLine[] {
  return lines.map((line) => (line.account === account && foreign ? { ...line, foreign } : line));
}

/** Debits less credits: 0 for every entry that may be posted. */
export function imbalance(lines: readonly EntryLine[]): Minor {
  let total = 0;
  for (const line of lines) total += line.amount;
  return minor(total);
}

/**
 * Closes a recipe: all it gives must balance.
 * @throws Error where it does not. A recipe that does not balance is a bug, never bad input.
 */
export function entryOf(...groups: readonly (readonly EntryLine[])[]): Entry {
  const lines: EntryLine[] = [];
  for (const group of groups) for (const line of group) lines.push(line);
  const off = imbalance(lines);
  if (off !== ZERO) throw new Error(`entry does not balance: debits less credits is ${off}`);
  return { lines };
}

/** Puts entries into one, keeping every line: fees and gross stay on lines of their own. */
export function together(...entries: readonly Entry[]): Entry {
  if (entries.length === 1) return entries[0]!;
  const lines: EntryLine[] = [];
  for (const entry of entries) for (const line of entry.lines) lines.push(line);
  return { lines };
}
