import type { Minor } from '../money';
import { normaliseText } from './text';

/** How a text is asked for in all that the bank says of a line. */
export type TextCondition =
  /** Any part of it, letters and case as they are compared everywhere. */
  | { readonly how: 'contains'; readonly text: string }
  /** Whole words, one behind the other. */
  | { readonly how: 'words'; readonly text: string }
  /** A number that stands by itself, leading noughts or not. */
  | { readonly how: 'number'; readonly text: string }
  /** With * for any run of characters, ? for one, # for a digit; anywhere in the text. */
  | { readonly how: 'pattern'; readonly text: string };

/** When a statement rule applies: every condition that is given must hold. */
export interface RuleConditions {
  readonly texts: readonly TextCondition[];
  readonly accounts?: readonly number[] | undefined;
  readonly sign?: 'in' | 'out' | undefined;
  /** Minor units of the line's size, both ends included. */
  readonly amountFrom?: Minor | undefined;
  readonly amountTo?: Minor | undefined;
}

/** Where such a line is booked. */
export interface RuleResult {
  readonly account: number;
  readonly dimensions: Readonly<Record<number, number>>;
  readonly taxCode: number | null;
  /** Whose money it is. */
  readonly payer: number | null;
  /** Another account where one of these numbers stands in the text: contracts, policies or meters of one payer. */
  readonly byNumber: readonly { readonly number: string; readonly account: number }[];
}

export interface StatementRule {
  readonly id: number;
  readonly name: string;
  readonly conditions: RuleConditions;
  readonly result: RuleResult;
}

export interface RuledLine {
  readonly account: number;
  readonly amount: Minor;
  /** The bank's whole text, counterparty and references among it. */
  readonly text: string;
}

/** Longest pattern that is taken; with the text's length it bounds the steps. */
export const LONGEST_PATTERN = 120;

/**
 * Whether a pattern of *, ? and # matches anywhere in a text. No expression is compiled and nothing is tried twice from the same
 * place but by the last star, so a text of n and a pattern of m characters take at most n times m steps, whatever is written.
 */
export function globWithin(pattern: string, text: string): boolean {
  const glob = `*${pattern.toUpperCase()}*`;
  const upper = text.toUpperCase();
  let [p, t, star, from] = [0, 0, -1, 0];
  while (t < upper.length) {
    const want = glob[p];
    const is = upper.charCodeAt(t);
    if (want === '*') {
      star = p++;
      from = t;
    } else if (want === '?' || want === upper[t] || (want === '#' && is >= 48 && is <= 57)) {
      p++;
      t++;
    } else if (star >= 0) {
      p = star + 1;
      t = ++from;
    } else return false;
  }
  while (glob[p] === '*') p++;
  return p === glob.length;
}

const bare = (digits: string) => digits.replace(/^0+(?=\d)/, '');

/** Whether a number stands by itself in a text, leading noughts or not. */
function saysNumber(raw: string, number: string): boolean {
  const digits = bare(number.replace(/\D/g, ''));
  return digits !== '' && (raw.match(/\d+/g) ?? []).some((one) => bare(one) === digits);
}

/** A condition made ready once for many lines. */
function asked(condition: TextCondition): (line: { readonly raw: string; readonly words: string }) => boolean {
  const normal = normaliseText(condition.text);
  switch (condition.how) {
    case 'contains':
      return ({ words }) => normal !== '' && words.includes(normal);
    case 'words':
      return ({ words }) => normal !== '' && ` ${words} `.includes(` ${normal} `);
    case 'number':
      return ({ raw }) => saysNumber(raw, condition.text);
    case 'pattern':
      return ({ raw }) => globWithin(condition.text.slice(0, LONGEST_PATTERN), raw);
  }
}

/**
 * A rule as it books a line: where numbers decide the account, by the one that stands in its text. Of several that stand there
 * each is a way of its own, since nobody can tell which is meant.
 */
function asItBooks(rule: StatementRule, raw: string): StatementRule[] {
  const said = rule.result.byNumber.filter(({ number }) => saysNumber(raw, number));
  if (said.length === 0) return [rule];
  return said.map(({ number, account }) => ({
    ...rule,
    name: said.length === 1 ? rule.name : `${rule.name} (${number})`,
    result: { ...rule.result, account },
  }));
}

/** Rules in their order, made ready for many lines; the first that applies decides, and the others that would are told. */
export class StatementRules {
  private readonly rules: readonly {
    readonly rule: StatementRule;
    readonly texts: readonly ((line: { readonly raw: string; readonly words: string }) => boolean)[];
  }[];

  constructor(rules: readonly StatementRule[]) {
    this.rules = rules.map((rule) => ({ rule, texts: rule.conditions.texts.map(asked) }));
  }

  /** Every rule that applies to a line, in their order, as it books it. */
  all({ account, amount, text }: RuledLine): StatementRule[] {
    const line = { raw: text, words: normaliseText(text) };
    const size = Math.abs(amount);
    return this.rules.flatMap(({ rule, texts }) => {
      const { accounts, sign, amountFrom, amountTo } = rule.conditions;
      const applies =
        (accounts === undefined || accounts.length === 0 || accounts.includes(account)) &&
        (sign === undefined || (sign === 'in') === amount > 0) &&
        (amountFrom === undefined || size >= amountFrom) &&
        (amountTo === undefined || size <= amountTo) &&
        texts.every((holds) => holds(line));
      return applies ? asItBooks(rule, text) : [];
    });
  }
}

/** Whether two rules would book a line otherwise. */
export function differ(a: RuleResult, b: RuleResult): boolean {
  return (
    a.account !== b.account ||
    a.taxCode !== b.taxCode ||
    a.payer !== b.payer ||
    JSON.stringify(a.dimensions) !== JSON.stringify(b.dimensions)
  );
}
