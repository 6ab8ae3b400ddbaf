import { plainDate } from '../calendar';
import { minor } from '../money';
import { proposeTogether, referenceKey, referenceKeysIn, type LineToExplain, type PayoutOfChannel } from '.';

const calendar = { holidays: new Set<never>() };
const habit = { slack: 1, farthest: 8 };
const payout = (id: number, left: string, net: number, more: Partial<PayoutOfChannel> = {}): PayoutOfChannel => ({
  id,
  reference: `P-${id}`,
  key: referenceKey(`P-${id}`),
  left: plainDate(left),
  net: minor(net),
  account: 1,
  usualLag: 2,
  channel: 1,
  ...more,
});
const line = (id: number, date: string, amount: number, text = ''): LineToExplain => ({
  id,
  date: plainDate(date),
  amount: minor(amount),
  account: 1,
  keys: referenceKeysIn(text),
});
const of = (lines: LineToExplain[], payouts: PayoutOfChannel[]) => proposeTogether(lines, payouts, calendar, habit);
const ids = (found: ReturnType<typeof of>, id: number) => found.get(id)?.laid?.parts.map((part) => part.id);

const THREE = [payout(1, '2026-11-02', 100), payout(2, '2026-11-03', 250), payout(3, '2026-11-04', 700)];

test('two or three that follow each other and come to the deposit are laid, surely for none', () => {
  const found = of([line(1, '2026-11-06', 350), line(2, '2026-11-09', 70_000)], THREE);
  expect([found.get(1)!.certainty, ids(found, 1)]).toEqual(['probable', [1, 2]]);
  expect(found.has(2)).toBe(false);
  expect(ids(of([line(1, '2026-11-06', 1_050)], THREE), 1)).toEqual([1, 2, 3]);
});

test('not neighbours, another channel, another account, too early or too long ago: nothing', () => {
  expect(of([line(1, '2026-11-06', 800)], THREE).size).toBe(0);
  expect(of([line(1, '2026-11-06', 350)], [THREE[0]!, payout(2, '2026-11-03', 250, { channel: 2 })]).size).toBe(0);
  expect(of([line(1, '2026-11-06', 350)], [THREE[0]!, payout(2, '2026-11-03', 250, { account: 2 })]).size).toBe(0);
  expect(of([line(1, '2026-11-02', 350)], THREE).size).toBe(0);
  expect(of([line(1, '2026-12-06', 350)], THREE).size).toBe(0);
});

test('several ways are open, each named; two lines that claim one payout are sure of neither; order changes nothing', () => {
  const four = [payout(1, '2026-11-02', 100), payout(2, '2026-11-03', 200), payout(3, '2026-11-04', 100)];
  const found = of([line(1, '2026-11-06', 300, 'P-2 AND P-3')], four);
  expect(found.get(1)).toMatchObject({ certainty: 'open', laid: null });
  expect(found.get(1)!.others.map(({ parts }) => parts.map((part) => part.id))).toEqual([
    [1, 2],
    [2, 3],
  ]);
  const both = of([line(1, '2026-11-06', 350), line(2, '2026-11-09', 950)], THREE);
  expect([both.get(1)!.certainty, both.get(2)!.certainty]).toEqual(['open', 'open']);
  expect(of([line(2, '2026-11-09', 950), line(1, '2026-11-06', 350)], [...THREE].reverse()).get(1)).toEqual(
    both.get(1),
  );
});
