import fc from 'fast-check';
import type { AccountId } from '../ledger';
import type { Minor } from '../money';
import {
  AccountMap,
  differences,
  fieldsOf,
  implies,
  reviewRules,
  ruleApplies,
  RuleIndex,
  type Landing,
  type Layers,
  type MapConditions,
  type MapRule,
  type MapSubject,
} from '.';

const account = (id: number) => id as AccountId;
const subject = (more: Partial<MapSubject> = {}): MapSubject => ({
  channel: 1,
  site: null,
  payer: null,
  item: null,
  text: 'Rig check, Orla M.',
  method: 'card',
  currency: 'EUR',
  gross: 5000 as Minor,
  country: '',
  region: '',
  fund: '',
  ...more,
});
const rule = (id: number, conditions: MapConditions, landing: Landing): MapRule => ({
  id,
  name: `rule ${id}`,
  conditions,
  landing,
});
const layers = (more: Partial<Layers> = {}): Layers => ({
  receipt: null,
  item: null,
  payer: null,
  channel: { name: 'Card desk', landing: { income: account(40), fees: account(61), deposit: account(12) } },
  books: { name: 'the books', landing: { income: account(49), taxCode: 1 } },
  ...more,
});
const decide = (rules: MapRule[], s: MapSubject, l: Layers) => new AccountMap(new RuleIndex(rules)).decide(s, l);

test('each field is decided by the most specific layer that has a word on it', () => {
  const decision = decide(
    [
      rule(7, { text: 'RIG CHECK' }, { income: account(42) }),
      rule(8, {}, { income: account(43), dimensions: { 2: 21 } }),
    ],
    subject({ item: 5 }),
    layers({
      item: { name: 'rig-check', landing: { income: account(41), taxCode: 2 } },
      receipt: { dimensions: { 3: 31 } },
    }),
  );
  expect(decision.income).toEqual({ value: 42, layer: 'rule', name: 'rule 7', rule: 7 });
  expect(decision.taxCode).toEqual({ value: 2, layer: 'item', name: 'rig-check', rule: null });
  expect(decision.fees).toEqual({ value: 61, layer: 'channel', name: 'Card desk', rule: null });
  expect([...decision.dimensions]).toEqual([
    [2, { value: 21, layer: 'rule', name: 'rule 8', rule: 8 }],
    [3, { value: 31, layer: 'receipt', name: '', rule: null }],
  ]);
});

test('what nothing decides is null and never guessed', () => {
  const decision = decide([], subject(), layers({ channel: null, books: { name: 'the books', landing: {} } }));
  expect(decision).toMatchObject({ income: null, taxCode: null, deposit: null, fees: null });
});

test.each<[string, MapConditions, Partial<MapSubject>, boolean]>([
  ['a part of the text, whatever its case', { text: 'orla' }, {}, true],
  ['another text', { text: 'sail' }, {}, false],
  ['one of the channels', { channels: [1, 2] }, {}, true],
  ['a site where there is none', { sites: [1] }, {}, false],
  ['an amount at the lower end', { amountFrom: 5000 as Minor }, {}, true],
  ['an amount over the upper end', { amountTo: 4999 as Minor }, {}, false],
  ['a refund by its size', { amountFrom: 4000 as Minor }, { gross: -5000 as Minor }, true],
  ['a method in other case', { methods: ['Card'] }, {}, true],
  ['a country', { countries: ['ie'] }, { country: 'IE' }, true],
  ['a fund among several', { funds: ['Lens', 'General'] }, { fund: 'lens' }, true],
  ['another currency', { currencies: ['GBP'] }, {}, false],
  ['a payer', { payers: [9] }, { payer: 9 }, true],
  ['all of them together, one of which does not hold', { text: 'rig', items: [3] }, {}, false],
])('%s', (_what, conditions, more, holds) => {
  expect(ruleApplies(conditions, subject(more))).toBe(holds);
});

const few = fc.constantFrom(1, 2, 3);
const words = fc.constantFrom('', 'rig', 'sail', 'Rig check');
const conditions = fc.record<MapConditions>(
  {
    channels: fc.uniqueArray(few, { maxLength: 2 }),
    sites: fc.uniqueArray(few, { minLength: 1, maxLength: 2 }),
    items: fc.uniqueArray(few, { minLength: 1, maxLength: 2 }),
    text: words,
    methods: fc.uniqueArray(fc.constantFrom('card', 'CASH'), { minLength: 1 }),
    amountFrom: fc.constantFrom(0 as Minor, 100 as Minor, 300 as Minor),
    amountTo: fc.constantFrom(100 as Minor, 200 as Minor),
    funds: fc.uniqueArray(fc.constantFrom('lens', 'General'), { minLength: 1 }),
  },
  { requiredKeys: [] },
);
const landing = fc.record<Landing>(
  {
    income: few.map(account),
    taxCode: few,
    fees: few.map(account),
    dimensions: fc.dictionary(fc.constantFrom('1', '2'), few),
  },
  { requiredKeys: [] },
);
const someRules = fc
  .array(fc.tuple(conditions, landing), { maxLength: 70 })
  .map((list) => list.map(([c, l], index) => rule(index + 1, c, l)));
const someSubject = fc.record<Partial<MapSubject>>({
  channel: few,
  site: fc.option(few),
  item: fc.option(few),
  text: words,
  method: fc.constantFrom('card', 'cash', 'cheque'),
  gross: fc.constantFrom(50 as Minor, 100 as Minor, 250 as Minor, -100 as Minor),
  fund: fc.constantFrom('', 'lens', 'general'),
});

test('the index decides as going through the rules one by one does, in whatever order subjects come', () => {
  fc.assert(
    fc.property(someRules, fc.array(someSubject, { minLength: 1, maxLength: 6 }), (rules, several) => {
      const index = new RuleIndex(rules);
      for (const more of [...several, ...several.reverse()]) {
        const s = subject(more);
        index.look(s);
        const applying = rules.filter((r) => ruleApplies(r.conditions, s));
        expect(index.applying().map((r) => r.id)).toEqual(applying.map((r) => r.id));
        for (const field of ['income', 'taxCode', 'fees', 'deposit', 'dimension:1', 'dimension:2'] as const) {
          const expected = applying.find((r) => fieldsOf(r.landing).has(field)) ?? null;
          expect(index.deciderOf(field)?.id ?? null).toBe(expected?.id ?? null);
        }
      }
    }),
    { numRuns: 300 },
  );
});

test('a rule that is called shadowed or never applying decides nothing, whatever comes', () => {
  let told = 0;
  fc.assert(
    fc.property(someRules, someSubject, (rules, more) => {
      const troubles = reviewRules(rules).map((trouble) => trouble.rule);
      told += troubles.length;
      const index = new RuleIndex(rules);
      index.look(subject(more));
      for (const field of index.fields) expect(troubles).not.toContain(index.deciderOf(field)?.id);
    }),
    { numRuns: 300 },
  );
  expect(told).toBeGreaterThan(100);
});

test('implies is true only where whatever passes the narrow one passes the wide one', () => {
  fc.assert(
    fc.property(conditions, conditions, someSubject, (narrow, wide, more) => {
      const s = subject(more);
      if (implies(narrow, wide) && ruleApplies(narrow, s)) expect(ruleApplies(wide, s)).toBe(true);
    }),
    { numRuns: 2_000 },
  );
});

test('troubles say which rule, and by which it is covered', () => {
  expect(
    reviewRules([
      rule(1, { text: 'rig' }, { income: account(1), taxCode: 1 }),
      rule(2, { text: 'rig check', channels: [1] }, { income: account(2) }),
      rule(3, { text: 'rig check' }, { fees: account(2) }),
      rule(4, { amountFrom: 500 as Minor, amountTo: 100 as Minor }, { income: account(2) }),
      rule(5, { items: [] }, { income: account(2) }),
      rule(6, {}, {}),
    ]),
  ).toEqual([
    { kind: 'shadowed', rule: 2, by: 1 },
    { kind: 'never-applies', rule: 4, condition: 'amount' },
    { kind: 'never-applies', rule: 5, condition: 'empty-list' },
    { kind: 'decides-nothing', rule: 6 },
  ]);
});

test('differences name the fields that land elsewhere', () => {
  const before = decide([], subject(), layers());
  const after = decide([rule(1, {}, { income: account(7), dimensions: { 4: 1 } })], subject(), layers());
  expect(differences(before, after)).toEqual(['income', 'dimension:4']);
  expect(differences(before, before)).toEqual([]);
});
