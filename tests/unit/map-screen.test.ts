import { emptyRule, fieldsOfRule, ruleOfFields } from '@/app/books/[books]/set-up/map/rule-fields';
import { conditionWords, landingWords, troubleWords, valueName } from '@/app/books/[books]/set-up/map/map-words';
import { firstAnswers, freeCode, missing } from '@/app/books/[books]/set-up/channels/open/answers';
import { channelsPage } from '@/books/channels/list';
import { addDimension } from '@/books/dimensions/dimensions';
import { choicesFor } from '@/books/map/account-choices';
import { mapPage, type MapPage, type RuleRow } from '@/books/map/map-page';
import { saveMapRule } from '@/books/map/rules';
import type { MapConditions } from '@/core/map';
import { formatAmount, type Minor } from '@/core/money';
import { World } from './books/world';

let world: World;
let page: MapPage;
beforeAll(async () => {
  world = await World.open();
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier', 'Workshop'] });
  await world.must(saveMapRule, {
    id: null,
    name: 'Rigs',
    active: true,
    conditions: { channels: [1], text: 'rig', amountFrom: 1000 as Minor, countries: ['IE', 'GB'] },
    landing: { income: await world.account('4020'), taxCode: 2, dimensions: { [dimension]: 1 } },
  });
  page = await mapPage(world.books.reader);
});
afterAll(() => world.close());

const money = (amount: Minor) => formatAmount(amount, 'EUR');
const read = (change: Partial<ReturnType<typeof emptyRule>>) =>
  ruleOfFields({ ...emptyRule(null), name: 'R', ...change }, 'EUR');

test('a rule through the form and back is the same rule', () => {
  const rule = page.rules[0]!;
  const { id: _id, position: _position, ...expected } = rule;
  expect(ruleOfFields(fieldsOfRule(rule, page, 'EUR'), 'EUR')).toEqual(expected);
});

test('what is left empty is neither asked nor decided', () => {
  expect(read({})).toEqual({ name: 'R', active: true, conditions: {}, landing: {} });
});

test('words are parted by commas, amounts read as written, several can be chosen', () => {
  expect(
    read({
      methods: ' cash , card,',
      amountTo: '1,200.50',
      payers: [
        { id: 5, name: 'Orla Maher' },
        { id: 7, name: 'Ann Weir' },
      ],
      currencies: 'eur',
      income: '9',
    }),
  ).toMatchObject({
    conditions: { methods: ['cash', 'card'], amountTo: 120050, payers: [5, 7], currencies: ['EUR'] },
    landing: { income: 9 },
  });
});

test.each([
  [{ name: ' ' }, 'The rule has no name.'],
  [{ amountFrom: 'ten' }, '“ten” is no amount.'],
])('%j is told in a sentence', (fields, sentence) => {
  const made = read(fields);
  expect('trouble' in made && made.trouble).toContain(sentence);
});

test('what falls through fills a new rule in', () => {
  expect(emptyRule({ channel: 1, text: 'Rope', count: 2, amount: 500 as Minor }, page)).toMatchObject({
    name: 'Rope',
    text: 'Rope',
    channels: [{ id: 1, name: 'Card desk' }],
    active: true,
  });
});

test('a rule in words: when, and then', () => {
  const { conditions, landing } = page.rules[0]!;
  expect(conditionWords(conditions, page, money)).toEqual([
    'channel Card desk',
    'text has “rig”',
    'from 10.00',
    'sent to IE or GB',
  ]);
  expect(landingWords(landing, page)).toEqual(['4020 Rig checks', 'tax R13', 'Site Pier']);
});

test.each<[MapConditions, string[]]>([
  [{}, ['every receipt']],
  [{ amountFrom: 100 as Minor, amountTo: 200 as Minor }, ['1.00 to 2.00']],
  [{ amountTo: 200 as Minor }, ['up to 2.00']],
  [{ items: [1, 2, 3] }, ['item repair, rig-check or lesson']],
  [
    { methods: ['cash'], funds: ['Lens'], regions: ['CK'], currencies: ['EUR'] },
    ['paid by cash', 'in EUR', 'region CK', 'fund Lens'],
  ],
  [{ sites: [99] }, ['site one that is gone']],
])('%j is said as %j', (conditions, words) => {
  expect(conditionWords(conditions, page, money)).toEqual(words);
});

test('values and troubles have names', () => {
  expect(valueName('income', null, page)).toBe('nothing');
  expect(valueName('dimension:1', 2, page)).toBe('Site Workshop');
  expect(troubleWords({ kind: 'shadowed', rule: 2, by: 1 }, page)).toContain('“Rigs” comes first');
  expect(troubleWords({ kind: 'never-applies', rule: 2, condition: 'amount' }, page)).toContain('lower amount');
  expect(troubleWords({ kind: 'never-applies', rule: 2, condition: 'empty-list' }, page)).toContain('empty');
  expect(troubleWords({ kind: 'decides-nothing', rule: 2 }, page)).toContain('choose where it lands');
});

test('only accounts that fit are offered: none that the books keep by documents', () => {
  for (const field of ['income', 'deposit', 'fees'] as const) {
    const offered = choicesFor(field, page.accounts);
    // These books have no cash account yet, so nothing but clearing can be deposited in.
    expect(offered.length > 0).toBe(field !== 'deposit');
    expect(
      offered.filter(({ role }) =>
        ['clearing', 'bank', 'receivable', 'sales_tax', 'payer_credit'].includes(role ?? ''),
      ),
    ).toEqual([]);
  }
  expect(choicesFor('fees', page.accounts).every((account) => account.class === 'expense')).toBe(true);
});

describe('opening a channel', () => {
  test('offers the accounts that are there, and a free code for the clearing account', async () => {
    const channels = await channelsPage(world.books.reader);
    const answers = firstAnswers(channels);
    expect(answers).toMatchObject({
      fees: { use: await world.account('6100') },
      discounts: { use: await world.account('4800') },
      kind: 'card-desk',
      currency: 'EUR',
    });
    expect(answers.clearing!.code).toBe('1210');
    expect(freeCode(channels, 1000)).toBe('1000');
    expect(freeCode(channels, 1010)).toBe('1020');
  });

  test('says what is missing, step by step, until nothing is', async () => {
    const channels = await channelsPage(world.books.reader);
    const answers = firstAnswers(channels);
    expect(missing(answers, 'EUR').map((lack) => lack.step)).toEqual(['kind', 'accounts']);
    const named = { ...answers, name: 'Pier', clearing: { code: '1210', name: 'Pier clearing' } };
    expect(missing(named, 'EUR')).toEqual([]);
    expect(missing({ ...named, kind: 'till' }, 'EUR').map((lack) => lack.step)).toEqual(['sites']);
    const half = { ...named, outstanding: [{ id: '', date: '2026-11-01' as never, net: 0 as Minor }] };
    expect(missing(half, 'EUR').map((lack) => lack.step)).toEqual(['cut-over']);
  });
});

test('a rule keeps its place and its trouble on the page', async () => {
  const row: RuleRow = page.rules[0]!;
  expect([row.position, row.active, page.troubles]).toEqual([1, true, []]);
  await world.must(saveMapRule, {
    id: null,
    name: 'Shadowed',
    active: true,
    conditions: { channels: [1], text: 'rig check', amountFrom: 2000 as Minor, countries: ['IE'] },
    landing: { income: await world.account('4010') },
  });
  const after = await mapPage(world.books.reader);
  expect(after.troubles).toEqual([{ kind: 'shadowed', rule: after.rules[1]!.id, by: row.id }]);
});
