import { plainDate } from '../calendar';
import { minor } from '../money';
import { proposeLines, referenceKey, referenceKeysIn, type LineWithText, type PayoutOfChannel } from '.';

const calendar = { holidays: new Set<never>() };
const habit = { slack: 1, farthest: 8 };
const OWN = [
  { account: 1, number: 'IE29 SKER 9311 5212 3456 78', name: '1010 Current account' },
  { account: 2, number: 'IE64 SKER 9311 5200 0012 34', name: '1020 Savings' },
];
const line = (id: number, account: number, date: string, amount: number, text = ''): LineWithText => ({
  id,
  account,
  date: plainDate(date),
  amount: minor(amount),
  text,
  keys: referenceKeysIn(text),
});
const payout = (id: number, left: string, net: number): PayoutOfChannel => ({
  id,
  reference: `P-${id}`,
  key: referenceKey(`P-${id}`),
  left: plainDate(left),
  net: minor(net),
  account: 1,
  usualLag: 2,
  channel: 1,
});
const of = (lines: LineWithText[], payouts: PayoutOfChannel[] = []) =>
  proposeLines(lines, OWN, payouts, calendar, habit);
const told = (found: ReturnType<typeof of>) =>
  Object.fromEntries(
    [...found].map(([id, { certainty, laid, others }]) => [
      id,
      [certainty, laid?.parts.map((part) => `${part.kind} ${part.id}`).join(', ') ?? others.length],
    ]),
  );

describe('a transfer between own accounts', () => {
  const out = line(1, 1, '2026-11-02', -50_000, 'TO SAVINGS');
  const named = line(2, 2, '2026-11-03', 50_000, 'FROM IE29SKER 93115212 345678');

  test('is proven where the text names the other account, in however many pieces; each end gets the other', () => {
    expect(told(of([out, named]))).toEqual({ 1: ['proven', 'line 2'], 2: ['proven', 'line 1'] });
    expect(of([out, named]).get(2)!.laid!.reasons[0]).toEqual({
      kind: 'between-own',
      from: '1010 Current account',
      to: '1020 Savings',
      days: 1,
    });
  });

  test('without a name it is only possible', () => {
    expect(told(of([out, line(2, 2, '2026-11-03', 50_000, 'CREDIT')]))).toEqual({ 1: ['open', 1], 2: ['open', 1] });
  });

  test.each([
    ['another amount', line(2, 2, '2026-11-03', 50_001, 'FROM IE29SKER93115212345678')],
    ['the same account', line(2, 1, '2026-11-03', 50_000, 'FROM IE29SKER93115212345678')],
    ['six days later', line(2, 2, '2026-11-08', 50_000, 'FROM IE29SKER93115212345678')],
    ['two days before', line(2, 2, '2026-10-31', 50_000, 'FROM IE29SKER93115212345678')],
    ['an account that is not ours', line(2, 3, '2026-11-03', 50_000, 'FROM IE29SKER93115212345678')],
  ])('%s is none', (_, other) => {
    expect(of([out, other]).size).toBe(0);
  });

  test('two that are named alike are open for all, in any order', () => {
    const lines = [out, line(3, 1, '2026-11-02', -50_000, 'TO SAVINGS'), named];
    const found = of(lines);
    expect(told(found)).toEqual({ 1: ['open', 1], 2: ['open', 2], 3: ['open', 1] });
    expect([...of([...lines].reverse())].sort(([a], [b]) => a - b)).toEqual([...found].sort(([a], [b]) => a - b));
  });

  test('of several, the one that is named alone is meant', () => {
    const unnamed = line(3, 2, '2026-11-03', 50_000, 'CASH');
    expect(told(of([out, unnamed, named]))).toEqual({
      1: ['proven', 'line 2'],
      2: ['proven', 'line 1'],
      3: ['open', 1],
    });
  });
});

describe('one payout in two deposits', () => {
  const [a, b] = [
    line(1, 1, '2026-11-04', 6_000, 'CARDS P-2207 PART 1'),
    line(2, 1, '2026-11-05', 4_000, 'CARDS P-2207 PART 2'),
  ];

  test('is proven where both name it, probable where one does, possible where none does', () => {
    const seven = [payout(2207, '2026-11-02', 10_000)];
    expect(told(of([a, b], seven))).toEqual({
      1: ['proven', 'payout 2207, line 2'],
      2: ['proven', 'payout 2207, line 1'],
    });
    expect(told(of([a, { ...b, keys: new Set() }], seven))[2]).toEqual(['probable', 'payout 2207, line 1']);
    expect(told(of([a, b], [payout(2208, '2026-11-02', 10_000)]))).toEqual({ 1: ['open', 1], 2: ['open', 1] });
  });

  test('not before it left, not too far apart, not to a cent less', () => {
    expect(of([a, b], [payout(2207, '2026-11-05', 10_000)]).size).toBe(0);
    expect(of([a, { ...b, date: plainDate('2026-11-10') }], [payout(2207, '2026-11-02', 10_000)]).size).toBe(0);
    expect(of([a, b], [payout(2207, '2026-11-02', 10_001)]).size).toBe(0);
  });
});
