import { comingRuns, runPlans } from '@/books/billing/plan-runs';
import { listPlans } from '@/books/billing/list-plans';
import { findPlan, removePlan, savePlan, switchPlan, type PlanInput } from '@/books/billing/plans';
import { closeThrough } from '@/books/ledger/close';
import { turnDay } from '@/books/setup/turn-day';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { bill, payerNamed } from './bills';
import { useWorld } from './world';

const world = useWorld();
let input: PlanInput;
const day = plainDate;
beforeEach(async () => {
  const payer = await payerNamed(world);
  input = {
    plan: null,
    name: 'Berth',
    bill: await bill(world, payer, [4000], { issued: day('2026-08-31') }),
    recurrence: {
      every: 'month',
      starts: day('2026-08-31'),
      lastDay: true,
      ends: null,
      pausedFrom: null,
      resumes: null,
      prorates: true,
    },
    prices: [],
    sends: false,
  };
});

const on = async (plan: number, billsFrom: string | null = null) =>
  world.must(switchPlan, { plan, on: true, billsFrom: billsFrom === null ? null : day(billsFrom) });
const issued = async () =>
  (await world.books.reader.selectFrom('invoice').select(['issued', 'gross']).orderBy('id').execute()).map((row) => [
    row.issued,
    row.gross,
  ]);

test('what was missed is caught up once, on its own days, and the end of a month stays the end', async () => {
  const { plan } = await world.must(savePlan, input);
  expect((await world.must(runPlans, { plan: null })).issued).toEqual([]);
  await on(plan);
  expect((await world.must(runPlans, { plan: null })).issued).toHaveLength(3);
  expect(await issued()).toEqual([
    ['2026-08-31', 4920],
    ['2026-09-30', 4920],
    ['2026-10-31', 4920],
  ]);
  expect((await world.must(runPlans, { plan: null })).issued).toEqual([]);
  await world.must(turnDay, { day: day('2026-11-30') });
  expect((await world.must(runPlans, { plan: null })).issued).toHaveLength(1);
});

test('from a day on only; a closed period is billed today', async () => {
  const { plan } = await world.must(savePlan, input);
  await world.must(closeThrough, { date: day('2026-09-30'), reopen: false });
  await on(plan, '2026-09-01');
  await world.must(runPlans, { plan });
  expect(await issued()).toEqual([
    ['2026-11-16', 4920],
    ['2026-10-31', 4920],
  ]);
});

test('the coming twelve runs, with prices that change and a last period by its days', async () => {
  const prices = [{ line: 0, from: day('2027-01-01'), price: minor(5000) }];
  const recurrence = { ...input.recurrence, starts: day('2026-12-01'), lastDay: false, ends: day('2027-02-14') };
  const runs = await comingRuns(world.books.reader, { ...input, id: null, prices, recurrence }, day('2026-12-01'));
  expect(runs.map(({ from, to, gross }) => [from, to, gross])).toEqual([
    ['2026-12-01', '2026-12-31', 4920],
    ['2027-01-01', '2027-01-31', 6150],
    ['2027-02-01', '2027-02-14', 3075],
  ]);
  const endless = await comingRuns(world.books.reader, { ...input, id: null }, day('2026-11-17'));
  expect(endless.map(({ from }) => from).slice(0, 4)).toEqual(['2026-11-30', '2026-12-31', '2027-01-31', '2027-02-28']);
  expect(endless).toHaveLength(12);
});

test('changed, switched and removed, each undone; billed, it stays', async () => {
  const { plan } = await world.must(savePlan, input);
  await world.must(savePlan, { ...input, plan, name: 'Berth and power' });
  const undo = () => world.undoLast();
  await undo();
  expect((await findPlan(world.books.reader, plan))!.name).toBe('Berth');
  await on(plan);
  await world.must(runPlans, { plan });
  expect(await world.refusal(removePlan, { plan })).toBe('in-use');
  await undo();
  const states = await world.books.reader.selectFrom('invoice').select(['gross', 'credited']).execute();
  expect(states.every(({ gross, credited }) => gross === credited)).toBe(true);
  expect((await listPlans(world.books.reader, day('2026-11-16')))[0]).toMatchObject({
    name: 'Berth',
    active: true,
    due: 0,
    next: { from: '2026-11-30' },
  });
});

test('two who bill at once bill once', async () => {
  const { plan } = await world.must(savePlan, input);
  await on(plan);
  await Promise.all([1, 2, 3].map(() => world.must(runPlans, { plan: null })));
  expect(await world.count('invoice')).toBe(3);
});

test.each([
  ['a name', { name: '' }],
  ['an end before its start', { recurrence: { ends: '2026-08-01' } }],
  ['the last day of a month that is none', { recurrence: { starts: '2026-08-30' } }],
  ['a pause that ends before it begins', { recurrence: { pausedFrom: '2026-10-01', resumes: '2026-09-01' } }],
])('refused: without %s', async (_name, change) => {
  const more = change as { recurrence?: object };
  expect(
    await world.refusal(savePlan, {
      ...input,
      ...change,
      recurrence: { ...input.recurrence, ...more.recurrence },
    } as PlanInput),
  ).toBe('invalid-input');
});
