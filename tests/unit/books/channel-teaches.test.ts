import { learntCuts, setDayCut } from '@/books/matching/day-cuts';
import { forgetLearnt } from '@/books/matching/learnt';
import { chargedOtherwise } from '@/books/proof/charges';
import { feeChecks } from '@/books/proof/fee-check';
import { receiptsImporter } from '@/books/receipts/import';
import { plainDate } from '@/core/calendar';
import { DESK_HEAD, useWorld } from './world';
import { payoutRow, receiptRow } from './written-rows';

const world = useWorld();

const db = () => world.books.reader;
const undo = () => world.undoLast();

test('a channel’s day is cut where its payouts end; taken over, and given back', async () => {
  const rows = Array.from({ length: 8 }, (_, n) => {
    const day = `2026-10-${String(10 + n).padStart(2, '0')}`;
    return (
      receiptRow(`E-${n}`, `${day}T20:55:00Z`, 1_000, 0, `P-${2000 + n}`) +
      receiptRow(`L-${n}`, `${day}T21:05:00Z`, 1_000, 0, `P-${2001 + n}`) +
      payoutRow(`P-${2000 + n}`, day, n === 0 ? 1_000 : 2_000)
    );
  });
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  // 21:00 in UTC is 22:00 by the clocks of Dublin's summer.
  const [cut] = await learntCuts(db());
  expect(cut).toMatchObject({ set: 0, learnt: { minute: 22 * 60, fit: 7, of: 7, asSet: 0 } });
  await world.must(setDayCut, { channel: cut!.channel, minute: 1320 });
  expect((await learntCuts(db()))[0]).toMatchObject({ set: 1320, learnt: { minute: 1320 } });
  // Forgotten, nothing tells it; what was set stays set, and can be corrected.
  await world.must(forgetLearnt, { channel: cut!.channel, upTo: plainDate('2026-11-16') });
  expect(await learntCuts(db())).toMatchObject([{ set: 1320, learnt: null }]);
  await world.must(setDayCut, { channel: cut!.channel, minute: 1365 });
  expect(await learntCuts(db())).toMatchObject([{ set: 1365, learnt: null }]);
  await undo();
  expect((await learntCuts(db()))[0]!.set).toBe(1320);
  await world.undoLast('forget-learnt');
  expect(await learntCuts(db())).toMatchObject([{ set: 1320, learnt: { minute: 1320 } }]);
  expect(await world.refusal(setDayCut, { channel: 99, minute: 0 })).toBe('not-found');
});

test('since when a channel charges otherwise is not told by a single one long before', async () => {
  const at = (day: string) => `2026-${day}`;
  const agreed = (gross: number) => Math.round(gross * 0.019) + 25;
  const rows = [
    receiptRow('STRAY', at('06-01'), 9_900, 1),
    ...Array.from({ length: 9 }, (_, n) =>
      receiptRow(`A-${n}`, at(`07-0${n + 1}`), 1_000 * (n + 1), agreed(1_000 * (n + 1))),
    ),
    ...Array.from({ length: 9 }, (_, n) =>
      receiptRow(`B-${n}`, at(`10-0${n + 1}`), 1_000 * (n + 1), agreed(1_000 * (n + 1)) + 10),
    ),
  ];
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  expect(await feeChecks(db())).toMatchObject([
    { otherwise: 10, since: '2026-10-01', before: 1, learnt: { schedule: { fixed: 35 } } },
  ]);
});

test('a payout that tells its fee in total only is held against the schedule', async () => {
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD +
      receiptRow('A', '2026-11-02', 10_000, null, 'P-1001') +
      payoutRow('P-1001', '2026-11-02', 9_775) +
      receiptRow('B', '2026-11-03', 10_000, null, 'P-1002') +
      payoutRow('P-1002', '2026-11-03', 9_785),
  );
  // Agreed are 1.9 % and 0.25, so 2.15 of 100.00: one took 2.25.
  const [check] = await feeChecks(db());
  expect(check).toMatchObject({ charged: 0, payouts: { of: 2, count: 1, difference: 10, since: '2026-11-02' } });
  expect(await chargedOtherwise(db(), check!.channel, 10)).toMatchObject([
    { kind: 'payout', name: 'P-1001', date: '2026-11-02', gross: 10_000, bySchedule: 215, charged: 225 },
  ]);
});

test('a payout is as agreed by each of its receipts, or with its share rounded once over all of them', async () => {
  // 1.9 % of 10.10 is 0.1919: three times 0.19 are 0.57, of 30.30 together it is 0.58; with 0.25 for each, 1.32 or 1.33.
  const three = (n: number) =>
    ['a', 'b', 'c'].map((one) => receiptRow(`${n}${one}`, `2026-11-0${n}`, 1_010, null, `P-${n}`));
  const rows = [1, 2, 3].map(
    (n) => three(n).join('') + payoutRow(`P-${n}`, `2026-11-0${n}`, 3_030 - [132, 133, 134][n - 1]!),
  );
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  const [check] = await feeChecks(db());
  expect(check).toMatchObject({ payouts: { of: 3, count: 1, difference: 2, since: '2026-11-03' } });
  expect(
    (await chargedOtherwise(db(), check!.channel, 10)).map(({ name, bySchedule, charged }) => [
      name,
      bySchedule,
      charged,
    ]),
  ).toEqual([['P-3', 132, 134]]);
});
