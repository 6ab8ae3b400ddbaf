import { formatAmount, type Currency } from '@/core/money';
import type { RuleConditions, TextCondition } from '@/core/matching';

export const HOW_WORDS: Readonly<Record<TextCondition['how'], string>> = {
  contains: 'has somewhere',
  words: 'has the words',
  number: 'has the number',
  pattern: 'is like',
};

/** When a rule applies, as one phrase. */
export function conditionWords(
  { texts, accounts, sign, amountFrom, amountTo }: RuleConditions,
  names: ReadonlyMap<number, string>,
  currency: Currency,
): string {
  const size =
    amountFrom !== undefined && amountFrom === amountTo
      ? `of ${formatAmount(amountFrom, currency)}`
      : [
          amountFrom === undefined ? '' : `from ${formatAmount(amountFrom, currency)}`,
          amountTo === undefined ? '' : `up to ${formatAmount(amountTo, currency)}`,
        ]
          .filter(Boolean)
          .join(' ');
  return [
    ...texts.map(({ how, text }) => `the text ${HOW_WORDS[how]} “${text}”`),
    sign === undefined ? '' : sign === 'in' ? 'it came in' : 'it went out',
    size === '' ? '' : `it is ${size}`,
    accounts?.length ? `on ${accounts.map((id) => names.get(id) ?? '').join(' or ')}` : '',
  ]
    .filter(Boolean)
    .join(', ');
}
