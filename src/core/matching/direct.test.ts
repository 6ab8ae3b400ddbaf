import { plainDate } from '../calendar';
import { minor } from '../money';
import {
  claimPools,
  dayNumber,
  NameFinder,
  proposeDirect,
  proposeInvoices,
  proposePayouts,
  referenceKey,
  referenceKeysIn,
  weighClaims,
  type DirectReceipt,
  type LineWithText,
  type OpenInvoice,
  type SweepChannel,
} from '.';

const calendar = { holidays: new Set<never>() };
const names = new NameFinder([
  { payer: 1, name: 'Anna Berg' },
  { payer: 2, name: 'Ben Dahl' },
]);
const day = (n: number) => plainDate(`2026-11-${String(n).padStart(2, '0')}`);
const line = (id: number, n: number, amount: number, text = ''): LineWithText => ({
  id,
  account: 1,
  date: day(n),
  amount: minor(amount),
  text,
  keys: referenceKeysIn(text),
});
const receipt = (
  id: number,
  n: number,
  amount: number,
  payer: number | null,
  key = `TR-${1000 + id}`,
): DirectReceipt => ({
  id,
  account: 1,
  day: day(n),
  amount: minor(amount),
  name: key,
  keys: [referenceKey(key)],
  payer,
});
const of = (lines: LineWithText[], receipts: DirectReceipt[]) => proposeDirect(lines, receipts, names, calendar);
const told = (found: ReturnType<typeof of>) =>
  Object.fromEntries([...found].map(([id, { certainty, laid }]) => [id, [certainty, laid?.parts[0]!.id ?? null]]));

describe('a deposit that is one receipt', () => {
  test('is proven by its reference, probable by its payer, and nothing by its amount alone', () => {
    expect(told(of([line(1, 5, 700, 'GIFT TR 1001')], [receipt(1, 4, 700, null)]))).toEqual({ 1: ['proven', 1] });
    expect(told(of([line(1, 5, 700, 'BERG ANNA')], [receipt(1, 4, 700, 1)]))).toEqual({ 1: ['probable', 1] });
    expect(of([line(1, 5, 700, 'GIFT')], [receipt(1, 4, 700, 1)]).size).toBe(0);
    expect(of([line(1, 5, 701, 'TR1001')], [receipt(1, 4, 700, 1)]).size).toBe(0);
  });

  test('one letter off counts only where the payer agrees, and parts two of one payer', () => {
    const two = [receipt(1, 4, 700, 1), receipt(2, 4, 700, 1, 'TR-2002')];
    expect(told(of([line(1, 5, 700, 'ANNA BERG TR1010')], two))).toEqual({ 1: ['probable', 1] });
    expect(told(of([line(1, 5, 700, 'ANNA BERG TR2020')], two))).toEqual({ 1: ['probable', 2] });
    expect(of([line(1, 5, 700, 'TR1010')], two).size).toBe(0);
  });

  test('two that share a ground are open; what is named wins over what is of the payer', () => {
    const both = [receipt(1, 4, 700, 1), receipt(2, 4, 700, 1)];
    expect(told(of([line(1, 5, 700, 'ANNA BERG')], both))).toEqual({ 1: ['open', null] });
    expect(told(of([line(1, 5, 700, 'ANNA BERG TR1002')], both))).toEqual({ 1: ['proven', 2] });
    expect(told(of([line(1, 5, 700, 'ANNA BERG'), line(2, 5, 700, 'ANNA BERG')], [both[0]!]))).toEqual({
      1: ['open', null],
      2: ['open', null],
    });
  });

  test('a payer’s is near in time, a named one may be old; another bank’s is none', () => {
    expect(of([line(1, 30, 700, 'ANNA BERG')], [receipt(1, 2, 700, 1)]).size).toBe(0);
    expect(told(of([line(1, 30, 700, 'TR1001')], [receipt(1, 2, 700, 1)]))).toEqual({ 1: ['proven', 1] });
    expect(of([line(1, 5, 700, 'TR1001')], [{ ...receipt(1, 4, 700, 1), account: 2 }]).size).toBe(0);
  });
});

describe('numbers that are bare or one letter off', () => {
  const invoice = (id: number, number: string, open: number, payer = 1): OpenInvoice => ({
    id,
    payer,
    number,
    key: referenceKey(number),
    due: day(id),
    open: minor(open),
    early: null,
  });
  const explain = (text: string, amount: number, invoices: OpenInvoice[]) =>
    proposeInvoices([{ ...line(1, 20, amount, text), details: [] }], invoices, names)[0]!;
  const five = [
    invoice(1, 'KS-2034', 100),
    invoice(2, 'KS-2036', 200),
    invoice(3, 'KS-2055', 400),
    invoice(4, 'KS-2083', 800),
    invoice(5, 'KS-2091', 100),
  ];

  test('three of five by bare numbers, one with a typo', () => {
    const found = explain('ANNA BERG 2034 2036 2038 THANKS', 1_100, five);
    expect([found.certainty, found.laid?.parts.map(({ id }) => id)]).toEqual(['probable', [1, 2, 4]]);
    expect(found.laid!.reasons).toContainEqual({ kind: 'nearly-in-text', said: '2038', reference: 'KS-2083' });
  });

  test('of two equal ones the near one; near to both is neither', () => {
    const two = [invoice(1, 'KS-2034', 100), invoice(2, 'KS-3099', 100)];
    expect(explain('ANNA BERG KS2043', 100, two).laid?.parts[0]!.id).toBe(1);
    const alike = [invoice(1, 'KS-2034', 100), invoice(2, 'KS-2035', 100)];
    expect(explain('ANNA BERG KS2036', 100, alike).certainty).toBe('open');
  });

  test('without the payer, or not to the amount, a near number is none', () => {
    expect(explain('KS2043', 100, [invoice(1, 'KS-2034', 100)]).certainty).toBe('open');
    expect(explain('ANNA BERG KS2084', 850, five).certainty).toBe('none');
  });
});

test('of payouts of one amount, the one whose id is one letter off is probable; if two lines are near, none is', () => {
  const payout = (id: number) => ({
    id,
    reference: `P-${id}`,
    key: `P${id}`,
    left: day(2),
    net: minor(500),
    account: 1,
    usualLag: 2,
  });
  const habit = { slack: 1, farthest: 8 };
  const propose = (lines: LineWithText[]) => proposePayouts(lines, [payout(2231), payout(2310)], calendar, habit);
  expect(propose([line(1, 4, 500, 'CD P-2213')])[0]).toMatchObject({
    certainty: 'probable',
    laid: { parts: [{ id: 2231 }] },
  });
  expect(
    propose([line(1, 4, 500, 'CD P-2213'), line(2, 4, 500, 'CD P-2321')]).map(({ certainty }) => certainty),
  ).toEqual(['open', 'open']);
});

describe('a small pool', () => {
  const pool = (nets: number[], more: Partial<SweepChannel> = {}): SweepChannel => ({
    name: 'Counter',
    receipts: {
      count: nets.length,
      id: Int32Array.from(nets, (_, n) => n + 1),
      day: new Int32Array(nets.length).fill(dayNumber(day(2))),
      net: Float64Array.from(nets),
      taken: new Uint8Array(nets.length),
    },
    habit: { shortestLag: 0, longestLag: 5, longestSpan: 7 },
    facts: null,
    feesKnown: true,
    ...more,
  });
  const claim = (nets: number[], amount: number, more: Partial<SweepChannel> = {}) => [
    ...weighClaims(claimPools([{ id: 1, day: dayNumber(day(5)), amount: minor(amount) }], pool(nets, more))).values(),
  ];

  test('one set of a few is probable, and says how many were searched', () => {
    const [found] = claim([101, 203, 407, 811], 912);
    expect([found!.certainty, found!.laid!.parts.map(({ id }) => id)]).toEqual(['probable', [1, 4]]);
    expect(found!.laid!.reasons[0]).toEqual({
      kind: 'some-of-pool',
      channel: 'Counter',
      count: 2,
      searched: 4,
      only: true,
    });
  });

  test.each([
    ['among eleven', Array.from({ length: 11 }, (_, n) => 2 ** n * 101), 303, {}],
    ['of two that are alike', [101, 101, 407], 508, {}],
    ['of round gifts', [500, 1_000, 2_500], 3_500, {}],
    ['where fees are not known', [101, 203, 407], 304, { feesKnown: false }],
  ])('%s it is only shown', (_, nets, amount, more) => {
    expect(claim(nets, amount, more)[0]).toMatchObject({ certainty: 'open', laid: null });
  });

  test('nothing of what is taken, too late or too many is looked at', () => {
    expect(claim([101, 203], 304, { habit: { shortestLag: 0, longestLag: 1, longestSpan: 1 } })).toEqual([]);
    expect(
      claim(
        Array.from({ length: 25 }, (_, n) => 101 + n),
        205,
      ),
    ).toEqual([]);
    const taken = pool([101, 203]);
    taken.receipts.taken[0] = 1;
    expect(claimPools([{ id: 1, day: dayNumber(day(5)), amount: minor(304) }], taken)).toEqual([]);
  });
});
