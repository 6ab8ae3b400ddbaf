import { conditionWords } from '@/app/books/[books]/banked/rules/rule-words';
import type { RuleConditions } from '@/core/matching';
import { minor } from '@/core/money';

test.each<[RuleConditions, string]>([
  [{ texts: [{ how: 'words', text: 'terminal rental' }] }, 'the text has the words “terminal rental”'],
  [
    {
      texts: [
        { how: 'contains', text: 'rent' },
        { how: 'number', text: '42' },
      ],
      sign: 'out',
    },
    'the text has somewhere “rent”, the text has the number “42”, it went out',
  ],
  [{ texts: [], sign: 'in', amountFrom: minor(1_000), amountTo: minor(1_000) }, 'it came in, it is of 10.00'],
  [{ texts: [], amountFrom: minor(1_000), accounts: [1, 2] as never }, 'it is from 10.00, on Current or Reserve'],
  [
    { texts: [{ how: 'pattern', text: 'RENT ??' }], amountTo: minor(5_000) },
    'the text is like “RENT ??”, it is up to 50.00',
  ],
])('a statement rule in words: %#', (conditions, words) => {
  expect(
    conditionWords(
      conditions,
      new Map([
        [1, 'Current'],
        [2, 'Reserve'],
      ]),
      'EUR',
    ),
  ).toBe(words);
});
