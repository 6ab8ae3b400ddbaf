import { plainDate, type PlainDate } from '../calendar';
import { minor } from '../money';
import {
  claimCash,
  claimConverted,
  claimTotals,
  referenceKeysIn,
  weighClaims,
  type CashBox,
  type Claim,
  type ForeignPayout,
  type TotalsChannel,
} from '.';

const calendar = { holidays: new Set<never>() };
const day = (n: number) => plainDate(`2026-11-${String(n).padStart(2, '0')}`);
const line = (id: number, date: PlainDate, amount: number, text = '') => ({
  id,
  date,
  amount: minor(amount),
  text,
  account: 1,
  keys: referenceKeysIn(text),
});
const told = (claims: readonly Claim[]) =>
  Object.fromEntries(
    [...weighClaims(claims)].map(([id, { certainty, laid, others }]) => [
      id,
      [certainty, laid ? [laid.parts.map((part) => part.id), laid.restTo ?? null] : others.length],
    ]),
  );

describe('cash on hand', () => {
  // Worked figure B: 118.40 counted, 115.00 banked on Monday, 3.40 missing.
  const box: CashBox = {
    account: 15,
    name: 'Cash on hand',
    days: [
      { day: day(6), balance: minor(11_840) },
      { day: day(9), balance: minor(20_100) },
    ],
    differences: 61,
    wordings: new Set(),
  };

  test('what was there at the end of a day, to the cent, is probable, whatever the bank calls it', () => {
    expect(told(claimCash([line(1, day(9), 11_840, 'LODGEMENT')], [box]))).toEqual({ 1: ['probable', [[15], null]] });
  });

  test('short is probable where the text is that of such deposits, and the gap is said', () => {
    const claims = claimCash([line(1, day(9), 11_500, 'CASH LODGEMENT 0042')], [box]);
    expect(told(claims)).toEqual({ 1: ['probable', [[15], 61]] });
    expect(claims[0]!.way.reasons).toEqual([
      { kind: 'cash-on-hand', name: 'Cash on hand', balance: 11_840, day: day(6) },
      { kind: 'wording' },
      { kind: 'cash-gap', amount: -340 },
    ]);
    const learnt = { ...box, name: 'Till', wordings: new Set(['LODGEMENT PORTMARA']) };
    expect(told(claimCash([line(1, day(9), 11_500, 'LODGEMENT 77 PORTMARA')], [learnt]))).toEqual({
      1: ['probable', [[15], 61]],
    });
  });

  test.each([
    ['nothing speaks for cash', line(1, day(9), 11_500, 'TRANSFER')],
    ['more than five in a hundred is missing', line(1, day(9), 11_200, 'CASH')],
    ['it is a week old and something came since', line(1, day(20), 11_840, 'CASH')],
    ['it was counted later', line(1, day(5), 11_840, 'CASH')],
  ])('is no claim where %s', (_, one) => {
    expect(claimCash([one], [box])).toEqual([]);
  });

  test('the takings of some days are banked to the cent, of one day also short', () => {
    const days = [5, 6, 9, 10].map((n, at) => ({
      day: day(n),
      balance: minor([100_000, 111_840, 120_000, 135_500][at]!),
    }));
    const full = { ...box, days };
    expect(told(claimCash([line(1, day(11), 23_660, 'CASH')], [full]))).toEqual({ 1: ['probable', [[15], null]] });
    expect(claimCash([line(1, day(11), 23_660, 'CASH')], [full])[0]!.way.reasons[0]).toEqual({
      kind: 'cash-takings',
      name: 'Cash on hand',
      amount: 23_660,
      from: day(9),
      to: day(10),
    });
    expect(told(claimCash([line(1, day(11), 15_250, 'CASH')], [full]))).toEqual({ 1: ['probable', [[15], 61]] });
    // Of several days nothing short is claimed; without the word, takings are only shown.
    expect(claimCash([line(1, day(11), 23_600, 'CASH')], [full])).toEqual([]);
    expect(told(claimCash([line(1, day(11), 23_660, 'TRANSFER')], [full]))).toEqual({ 1: ['open', 1] });
    // Two deposits that share a day's takings are sure of neither.
    expect(told(claimCash([line(1, day(11), 23_660, 'CASH'), line(2, day(11), 15_500, 'CASH')], [full]))).toEqual({
      1: ['open', 1],
      2: ['open', 1],
    });
  });

  test('cheques are not short; an exact count comes before one with a gap; two lines that claim one count are open', () => {
    expect(claimCash([line(1, day(9), 11_500, 'CASH')], [{ ...box, differences: null }])).toEqual([]);
    const near = {
      ...box,
      days: [
        { day: day(5), balance: minor(11_900) },
        { day: day(6), balance: minor(11_840) },
      ],
    };
    expect(told(claimCash([line(1, day(9), 11_840, 'CASH')], [near]))).toEqual({ 1: ['probable', [[15], null]] });
    expect(told(claimCash([line(1, day(9), 11_840), line(2, day(9), 11_840)], [box]))).toEqual({
      1: ['open', 1],
      2: ['open', 1],
    });
  });
});

describe('a channel that gives only totals', () => {
  const channel: TotalsChannel = {
    name: 'Terminal',
    fees: 60,
    usualLag: 1,
    slack: 1,
    rates: [],
    days: [
      { day: day(2), gross: minor(10_000), receipts: [1, 2] },
      { day: day(3), gross: minor(20_000), receipts: [3] },
    ],
  };
  const known = { ...channel, rates: [170, 172, 168] };

  test('without a history it is shown, never laid; with one, what is charged as usual is probable', () => {
    expect(told(claimTotals([line(1, day(4), 19_660)], channel, calendar))).toEqual({ 1: ['open', 1] });
    expect(told(claimTotals([line(1, day(4), 19_660)], known, calendar))).toEqual({ 1: ['probable', [[3], 60]] });
  });

  test('several days together; a fee above five in a hundred, or below nothing, is none', () => {
    expect(told(claimTotals([line(1, day(4), 29_490)], known, calendar))).toEqual({ 1: ['probable', [[1, 2, 3], 60]] });
    expect(claimTotals([line(1, day(4), 18_900)], known, calendar)).toEqual([]);
    expect(claimTotals([line(1, day(4), 30_001)], known, calendar)).toEqual([]);
  });

  test('not before its lag, nor long after it; a missing receipt makes the fee unusual', () => {
    expect(claimTotals([line(1, day(12), 19_660)], known, calendar)).toEqual([]);
    expect(told(claimTotals([line(1, day(4), 19_400)], known, calendar))).toEqual({ 1: ['open', 1] });
  });
});

describe('a payout in another currency', () => {
  const payout: ForeignPayout = {
    id: 5,
    reference: 'P-2207',
    key: 'P2207',
    left: day(2),
    account: 1,
    usualLag: 2,
    channel: 1,
    currency: 'GBP' as never,
    foreign: minor(123_456),
    carried: minor(142_000),
    differences: 69,
  };
  const habit = { slack: 1, farthest: 8 };
  const of = (lines: ReturnType<typeof line>[], payouts = [payout]) => claimConverted(lines, payouts, calendar, habit);

  test('at its usual time and nearly the rate of the day is probable, the rest is the gain or loss', () => {
    const claims = of([line(1, day(4), 141_500)]);
    expect(told(claims)).toEqual({ 1: ['probable', [[5], 69]] });
    expect(claims[0]!.way.reasons.at(-1)).toEqual({
      kind: 'converted',
      currency: 'GBP',
      foreign: 123_456,
      amount: 141_500,
      carried: 142_000,
    });
  });

  test('its id, or its own amount in the text, speaks for it at a worse rate', () => {
    expect(told(of([line(1, day(4), 137_500)]))).toEqual({ 1: ['open', 1] });
    for (const text of ['WALLET P-2207', 'GBP 1,234.56 AT 1.1137', 'GBP 1234.56', 'GBP 1.234,56']) {
      expect(told(of([line(1, day(4), 137_500, text)]))).toEqual({ 1: ['probable', [[5], 69]] });
    }
    for (const text of ['GBP 11234.56', 'USD 1234.56'])
      expect(told(of([line(1, day(4), 137_500, text)]))[1]![0]).toBe('open');
  });

  test('too far from the rate, too late, before it left, at another bank: none', () => {
    expect(
      of([
        line(1, day(4), 130_000),
        line(2, day(30), 141_500),
        line(3, day(1), 141_500),
        { ...line(4, day(4), 141_500), account: 2 },
      ]),
    ).toEqual([]);
  });

  test('two deposits that claim it, or two payouts that fit, are open', () => {
    expect(told(of([line(1, day(4), 141_500), line(2, day(4), 141_600)]))).toEqual({ 1: ['open', 1], 2: ['open', 1] });
    expect(told(of([line(1, day(4), 141_500)], [payout, { ...payout, id: 6, key: 'P2208' }]))).toEqual({
      1: ['open', 2],
    });
  });
});
