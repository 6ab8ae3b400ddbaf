import { setFeeStep } from '@/books/channels/set-fee-step';
import { feeStepsOf, listFeeSteps } from '@/books/channels/fee-steps';
import { confirmMatch, confirmProbable } from '@/books/matching/confirm';
import { forgetLearnt } from '@/books/matching/learnt';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { feeChecks } from '@/books/proof/fee-check';
import { coveredAmount } from '@/books/public/give';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { railOf } from '@/books/today/rail';
import { worklist } from '@/books/today/worklist';
import { statementImporter } from '@/books/statements/import';
import { feeOf, type FeeSchedule } from '@/core/channels';
import { addDays, plainDate, type PlainDate } from '@/core/calendar';
import { minor, type BasisPoints } from '@/core/money';
import { DESK_HEAD, statement, useWorld } from './world';
import { money } from './written-rows';

const world = useWorld();

const NOON = new Date('2026-11-16T12:00:00Z');
const db = () => world.books.reader;
const schedule = (rate: number, fixed: number): FeeSchedule => ({ rate: rate as BasisPoints, fixed: minor(fixed) });
/** What the books' first channel was agreed to take, and what it takes from the sixth day on. */
const AGREED = schedule(190, 25);
const DEARER = schedule(240, 30);
const FIRST = plainDate('2026-10-05');
const CHANGED = plainDate('2026-10-10');
const PER_DAY = 12;
const DAYS = 11;

const dayOf = (n: number): PlainDate => addDays(FIRST, n);
const grosses = (day: number) =>
  Array.from({ length: PER_DAY }, (_, n) => 700 + (((day * PER_DAY + n) * 7_919) % 19_000));
const inForce = (day: PlainDate) => (day < CHANGED ? AGREED : DEARER);
const netOf = (day: number) =>
  grosses(day).reduce((sum, gross) => sum + gross - feeOf(minor(gross), inForce(dayOf(day))), 0);

const receipts = (payout: (day: number) => string = () => '') =>
  Array.from({ length: DAYS }, (_, day) =>
    grosses(day)
      .map(
        (gross, n) =>
          `R-${day}-${n},receipt,${dayOf(day)}T${String(8 + n).padStart(2, '0')}:00:00Z,EUR,${money(gross)},,,,,,,,${payout(day)},\n`,
      )
      .join(''),
  ).join('');

/** Receipts that state no fee, and the bank's lines of them two days later: the channel charges more from the sixth day on. */
async function takings(): Promise<void> {
  await world.bringIn(receiptsImporter, DESK_HEAD + receipts());
  await world.must(postReceipts, { filter: {} });
  const lines = Array.from(
    { length: DAYS },
    (_, day) => [addDays(dayOf(day), 2), netOf(day), `CARDS ${day}.`] as const,
  );
  await world.bringIn(statementImporter, statement(0, ...lines));
}

const line = (day: number) => world.id('statement_line', `CARDS ${day}.`);

/** The sheet as somebody lays it who sees the day's receipts: what is missing is the fee. */
async function confirmDay(day: number) {
  const ids = await Promise.all(Array.from({ length: PER_DAY }, (_, n) => world.id('receipt', `R-${day}-${n}`)));
  const parts = ids.map((id) => ({ kind: 'receipt' as const, id }));
  return world.must(confirmMatch, { line: await line(day), parts, restTo: await world.account('6100') });
}

const steps = async () =>
  (await listFeeSteps(db())).map(({ since, schedule: takes, learnt, fit, of }) => ({ since, takes, learnt, fit, of }));
const LEARNT = { since: CHANGED, takes: DEARER, learnt: true, fit: 4, of: 4 };

describe('deposits that tell that a channel charges otherwise', () => {
  beforeEach(takings);

  test('four that were confirmed by hand teach it, and what still waits is laid by it', async () => {
    for (const day of [0, 1, 5, 6, 7]) await confirmDay(day);
    expect(await steps()).toEqual([]);
    expect((await workingSheet(db(), await line(9)))!.certainty).not.toBe('probable');
    await confirmDay(8);
    expect(await steps()).toEqual([LEARNT]);
    const sheet = (await workingSheet(db(), await line(9)))!;
    expect(sheet.certainty).toBe('probable');
    expect(sheet.parts).toHaveLength(PER_DAY);
    expect(new Set(sheet.parts.map(({ feeFrom }) => feeFrom))).toEqual(new Set(['learnt']));
    expect(sheet.parts.reduce((sum, { net }) => sum + net, 0)).toBe(netOf(9));
    // What came before the change goes by what was agreed.
    const before = (await workingSheet(db(), await line(3)))!;
    expect(new Set(before.parts.map(({ feeFrom }) => feeFrom))).toEqual(new Set(['schedule']));
  });

  test('what is booked by it says so, and the fee check still holds it against what was agreed', async () => {
    for (const day of [5, 6, 7, 8]) await confirmDay(day);
    await world.must(confirmProbable, { lines: [await line(9)] });
    const fees = await db()
      .selectFrom('journal_line')
      .select('because')
      .where('account_id', '=', await world.account('6100'))
      .orderBy('journal_id', 'desc')
      .executeTakeFirstOrThrow();
    expect(JSON.parse(fees.because)).toEqual({ why: 'fee-as-learnt' });
    const more = [5, 6, 7, 8, 9]
      .flatMap(grosses)
      .reduce((sum, gross) => sum + feeOf(minor(gross), DEARER) - feeOf(minor(gross), AGREED), 0);
    expect(await feeChecks(db())).toMatchObject([
      { schedule: AGREED, agreedSince: null, deposits: { count: 5, difference: more } },
    ]);
  });

  test('Today says so until somebody agrees to it', async () => {
    const told = async () =>
      (await worklist(db(), await railOf(db(), NOON))).filter(({ href }) => href === 'banked/learnt');
    expect(await told()).toEqual([]);
    for (const day of [5, 6, 7, 8]) await confirmDay(day);
    expect(await told()).toMatchObject([
      {
        risk: 'waiting',
        title: 'Card desk takes 2.4 % + 0.30 since 10 Oct',
        detail: '1.9 % + 0.25 was agreed; 4 of 4 payouts and deposits fit it to the cent',
        age: 37,
      },
    ]);
    const { channel } = (await listFeeSteps(db()))[0]!;
    await world.must(setFeeStep, { channel, since: CHANGED, schedule: DEARER });
    expect(await told()).toEqual([]);
  });

  test('agreed to, it is no difference any more; taken back, it is learnt again', async () => {
    for (const day of [5, 6, 7, 8]) await confirmDay(day);
    const { channel } = (await listFeeSteps(db()))[0]!;
    await world.must(setFeeStep, { channel, since: CHANGED, schedule: DEARER });
    expect(await steps()).toEqual([{ ...LEARNT, learnt: false, fit: 0, of: 0 }]);
    expect(await feeChecks(db())).toMatchObject([{ charged: 0, deposits: { of: 4, count: 0, difference: 0 } }]);
    const sheet = (await workingSheet(db(), await line(9)))!;
    expect(new Set(sheet.parts.map(({ feeFrom }) => feeFrom))).toEqual(new Set(['schedule']));
    // A donor who covers the fee covers the one of today.
    expect(await coveredAmount(db(), channel, minor(5_000))).toBe(5_154);
    await world.undoLast();
    expect(await steps()).toEqual([LEARNT]);
    expect(await coveredAmount(db(), channel, minor(5_000))).toBe(5_122);
  });

  test('what was only learnt is no agreement that could be taken back', async () => {
    for (const day of [5, 6, 7, 8]) await confirmDay(day);
    const { channel } = (await listFeeSteps(db()))[0]!;
    expect(await world.refusal(setFeeStep, { channel, since: CHANGED, schedule: null })).toBe('not-found');
    expect(await steps()).toEqual([LEARNT]);
  });

  test('taken apart, a match teaches nothing; confirmed again, it does', async () => {
    const matches = [];
    for (const day of [5, 6, 7, 8]) matches.push((await confirmDay(day)).match);
    await world.must(takeApart, { match: matches[1]! });
    expect(await steps()).toEqual([]);
    expect((await workingSheet(db(), await line(9)))!.certainty).not.toBe('probable');
    await world.undoLast();
    expect(await steps()).toEqual([LEARNT]);
  });

  test('forgotten, only what is charged later teaches again; remembered, it is back', async () => {
    for (const day of [5, 6, 7, 8]) await confirmDay(day);
    const { channel } = (await listFeeSteps(db()))[0]!;
    await world.must(forgetLearnt, { channel, upTo: dayOf(6) });
    expect(await steps()).toEqual([]);
    await world.undoLast();
    expect(await steps()).toEqual([LEARNT]);
  });

  test('agreed to by hand from a day on, with nothing learnt; refusals name what is wrong', async () => {
    const { id: channel } = await db().selectFrom('channel').select('id').executeTakeFirstOrThrow();
    await world.must(setFeeStep, { channel, since: CHANGED, schedule: DEARER });
    const takes = (await feeStepsOf(db())).get(channel)!;
    expect([takes.on(dayOf(4)), takes.on(CHANGED)]).toEqual([AGREED, DEARER]);
    const laid = (await workingSheet(db(), await line(10)))!;
    expect(laid).toMatchObject({ certainty: 'probable' });
    await world.must(setFeeStep, { channel, since: CHANGED, schedule: null });
    expect((await feeStepsOf(db())).get(channel)!.on(CHANGED)).toEqual(AGREED);
    await world.undoLast();
    expect((await feeStepsOf(db())).get(channel)!.on(CHANGED)).toEqual(DEARER);
    expect(await world.refusal(setFeeStep, { channel: 99, since: CHANGED, schedule: DEARER })).toBe('not-found');
    expect(await world.refusal(setFeeStep, { channel, since: dayOf(9), schedule: null })).toBe('not-found');
    expect(await world.refusal(setFeeStep, { channel, since: CHANGED, schedule: { rate: 10_001, fixed: 0 } })).toBe(
      'invalid-input',
    );
  });
});

test('payouts that tell their fee in total teach it as they come in, and a file taken back takes that with it', async () => {
  const payouts = Array.from(
    { length: DAYS },
    (_, day) =>
      `P-${day},payout,${addDays(dayOf(day), 1)}T05:00:00Z,EUR,-${money(netOf(day))},,-${money(netOf(day))},,,,,,,\n`,
  );
  const run = await world.bringIn(receiptsImporter, DESK_HEAD + receipts((day) => `P-${day}`) + payouts.join(''));
  expect(run).toMatchObject({ added: DAYS * PER_DAY + DAYS, refused: 0 });
  expect(await steps()).toEqual([{ ...LEARNT, fit: 6, of: 6 }]);
  await world.undoLast();
  expect(await steps()).toEqual([]);
});

test('what older payouts taught stays once newer ones fill all that is looked at, and a later change is learnt besides', async () => {
  const cheaper = schedule(150, 20);
  const from = plainDate('2026-08-03');
  const start = addDays(from, 6);
  const taking = (day: PlainDate) => (day < start ? AGREED : day < addDays(from, 80) ? DEARER : cheaper);
  const ofDay = (n: number) => {
    const day = addDays(from, n);
    const own = grosses(n);
    const net = own.reduce((sum, gross) => sum + gross - feeOf(minor(gross), taking(day)), 0);
    const rows = own.map(
      (gross, at) =>
        `L-${n}-${at},receipt,${day}T${String(8 + at).padStart(2, '0')}:00:00Z,EUR,${money(gross)},,,,,,,,Q-${n},\n`,
    );
    return `${rows.join('')}Q-${n},payout,${addDays(day, 1)}T05:00:00Z,EUR,-${money(net)},,-${money(net)},,,,,,,\n`;
  };
  const bring = (first: number, count: number) =>
    world.bringIn(receiptsImporter, DESK_HEAD + Array.from({ length: count }, (_, n) => ofDay(first + n)).join(''));
  await bring(0, 15);
  expect((await steps()).map(({ since, takes }) => [since, takes])).toEqual([[start, DEARER]]);
  await bring(15, 80);
  expect((await steps()).map(({ since, takes }) => [since, takes])).toEqual([
    [addDays(from, 80), cheaper],
    [start, DEARER],
  ]);
  // Receipts of each time go by what was taken then.
  const takes = (await feeStepsOf(db())).get((await listFeeSteps(db()))[0]!.channel)!;
  expect([0, 6, 79, 80].map((n) => takes.on(addDays(from, n)))).toEqual([AGREED, DEARER, DEARER, cheaper]);
});
