'use server';

import { confirmByRules } from '@/books/matching/confirm';
import {
  moveStatementRule,
  removeStatementRule,
  saveStatementRule,
  tryStatementRule,
} from '@/books/matching/statement-rules';
import { ruleInput } from '@/books/matching/rule-input';
import { openBooks } from '../../../../server/books';
import { change } from '../../../../server/change';

export const saveStatementRuleNow = async (books: string, input: unknown) => change(books, saveStatementRule, input);
export const removeStatementRuleNow = async (books: string, id: number) => change(books, removeStatementRule, { id });
export const moveStatementRuleNow = async (books: string, input: unknown) => change(books, moveStatementRule, input);
export const confirmByRulesNow = async (books: string) => change(books, confirmByRules, {});

/** What a rule would take of the past; null where it does not say enough yet. */
export async function tryStatementRuleNow(books: string, input: unknown) {
  const rule = ruleInput.safeParse(input);
  return rule.success ? openBooks(books).read((db) => tryStatementRule(db, rule.data)) : null;
}
