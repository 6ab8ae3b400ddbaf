import fc from 'fast-check';
import { minor } from '../money';
import { differ, globWithin, StatementRules, type RuleConditions, type StatementRule, type TextCondition } from '.';

const rule = (id: number, conditions: Partial<RuleConditions>): StatementRule => ({
  id,
  name: `Rule ${id}`,
  conditions: { texts: [], ...conditions },
  result: { account: id, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
});
const holds = (condition: TextCondition, text: string) =>
  new StatementRules([rule(1, { texts: [condition] })]).all({ account: 1, amount: minor(100), text }).length === 1;

test.each([
  ['contains', 'workshop rent', 'SO WORKSHOP-RENT PORTMARA', true],
  ['contains', 'rent', 'CURRENT', true],
  ['words', 'rent', 'CURRENT', false],
  ['words', 'workshop rent', 'SO WORKSHOP/RENT PORTMARA', true],
  ['number', '0042', 'CONTRACT 42 OF 2026', true],
  ['number', '42', 'CONTRACT 421', false],
  ['number', '42', 'CONTRACT A42-7', true],
  ['pattern', 'contract ###/2026', 'RENT CONTRACT 117/2026 NOV', true],
  ['pattern', 'contract ###/2026', 'RENT CONTRACT 17/2026', false],
  ['pattern', 'rent*pier', 'RENT FOR THE PIER', true],
  ['pattern', 'b?th', 'BERTH', false],
  ['contains', '', 'ANYTHING', false],
] as const)('%s “%s” in “%s”: %s', (how, text, said, expected) => {
  expect(holds({ how, text }, said)).toBe(expected);
});

test('account, sign and amount narrow; the first in order decides, the others are told', () => {
  const rules = new StatementRules([
    rule(1, { sign: 'out', amountFrom: minor(100), amountTo: minor(200) }),
    rule(2, { accounts: [7] }),
    rule(3, {}),
  ]);
  const ids = (account: number, amount: number) =>
    rules.all({ account, amount: minor(amount), text: '' }).map(({ id }) => id);
  expect(ids(1, -100)).toEqual([1, 3]);
  expect(ids(1, 100)).toEqual([3]);
  expect(ids(7, -201)).toEqual([2, 3]);
  expect(differ(rule(1, {}).result, rule(2, {}).result)).toBe(true);
  expect(differ(rule(1, {}).result, rule(1, {}).result)).toBe(false);
});

test('a pattern is what its letters, stars and marks say, by the plain meaning of them', () => {
  const letters = fc.constantFrom('a', 'b', '1', ' ');
  const signs = fc.constantFrom('a', 'b', '1', ' ', '*', '?', '#');
  const plain = (pattern: string) =>
    new RegExp(
      [...pattern].map((sign) => (sign === '*' ? '.*' : sign === '?' ? '.' : sign === '#' ? '[0-9]' : sign)).join(''),
      'is',
    );
  fc.assert(
    fc.property(fc.array(signs, { maxLength: 6 }), fc.array(letters, { maxLength: 10 }), (pattern, text) => {
      expect(globWithin(pattern.join(''), text.join(''))).toBe(plain(pattern.join('')).test(text.join('')));
    }),
    { numRuns: 1_000 },
  );
});

test('a pattern that would take an expression forever ends at once', () => {
  expect(globWithin(`${'a*'.repeat(50)}b`, 'a'.repeat(200_000))).toBe(false);
});
