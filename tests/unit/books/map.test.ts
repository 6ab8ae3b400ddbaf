import { addDimension, requireDimension } from '@/books/dimensions/dimensions';
import { NO_PROGRESS } from '@/books/command';
import { setMapDefault } from '@/books/map/defaults';
import { layerReport } from '@/books/map/layers';
import { postAgainList, repostReceipts } from '@/books/map/repost';
import { moveMapRule, removeMapRule, saveMapRule } from '@/books/map/rules';
import { tryRule } from '@/books/map/try-rule';
import { proposePayers, setPayer } from '@/books/payers/payers';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { setAside, setLanding, takeBackAside } from '@/books/receipts/set-aside';
import { plainDate } from '@/core/calendar';
import type { MapConditions } from '@/core/map';
import { DESK_HEAD, useWorld } from './world';

const TODAY = plainDate('2026-11-16');

const world = useWorld();
beforeEach(async () => {
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD +
      'CD-1,receipt,2026-11-03T10:00:00Z,EUR,123.00,2.59,120.41,A. Tern,a@mail.example,,parts,Shackle,,\n' +
      'CD-2,receipt,2026-11-04T10:00:00Z,EUR,246.00,4.92,241.08,B. Gull,b@mail.example,,,Rig check at the pier,,\n' +
      'CD-3,receipt,2026-11-05T10:00:00Z,EUR,61.50,1.42,60.08,C. Skua,c@mail.example,,lesson,Lesson,,\n' +
      'CD-4,refund,2026-11-06T10:00:00Z,EUR,-61.50,,-61.50,C. Skua,c@mail.example,,lesson,Rained off,,CD-3\n',
  );
});

const rule = (name: string, conditions: MapConditions, landing: object) => ({
  id: null,
  name,
  active: true,
  conditions,
  landing,
});
const posted = async () => {
  await world.must(postReceipts, { filter: {} });
  return world.balances();
};

test('a rule on the text decides before the channel; the entry says which', async () => {
  const rigs = await world.account('4020');
  await world.must(saveMapRule, rule('Rigs', { text: 'rig check' }, { income: rigs }));
  const preview = await world.run(postReceipts, { ids: [await world.id('receipt', 'CD-2')] }, true);
  if (!preview.ok) throw new Error('refused');
  expect(preview.value.entry!.lines.find((line) => line.code === '4020')?.because).toBe('rule “Rigs”');
  const balances = await posted();
  expect(balances['4020']).toBe(-20000);
  expect(balances['4040']).toBe(-10000);
  await world.expectSound();
});

test('what the user set on the receipt comes before every rule, until it is posted', async () => {
  await world.must(saveMapRule, rule('All', {}, { income: await world.account('4010') }));
  const receipt = await world.id('receipt', 'CD-1');
  await world.must(setLanding, { receipt, landing: { income: await world.account('4030') } });
  await world.must(postReceipts, { ids: [receipt] });
  expect((await world.balances())['4030']).toBe(-10000);
  expect(await world.refusal(setLanding, { receipt, landing: {} })).toBe('posted-already');
});

test('dimensions go onto income lines and through a reversal; a required one that nothing gives is refused', async () => {
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier', 'Workshop'] });
  const db = world.books.reader;
  const values = await db.selectFrom('dimension_value').selectAll().orderBy('id').execute();
  await world.must(requireDimension, { dimension, account: await world.account('4040'), required: true });
  const first = await world.id('receipt', 'CD-1');
  expect(await world.refusal(postReceipts, { ids: [first] })).toBe('dimension-missing');
  await world.must(setMapDefault, { layer: 'channel', ref: 1, field: `dimension:${dimension}`, value: values[1]!.id });
  await world.must(saveMapRule, rule('Pier', { text: 'pier' }, { dimensions: { [dimension]: values[0]!.id } }));
  await posted();
  const under = () =>
    db
      .selectFrom('journal_line_dimension as d')
      .innerJoin('journal_line as l', (j) =>
        j.onRef('l.journal_id', '=', 'd.journal_id').onRef('l.line_no', '=', 'd.line_no'),
      )
      .innerJoin('dimension_value as v', 'v.id', 'd.value_id')
      .select((e) => ['v.name', e.fn.sum<number>('l.amount').as('amount')])
      .groupBy('v.name')
      .orderBy('v.name')
      .execute();
  expect(await under()).toEqual([
    { name: 'Pier', amount: -20000 },
    // A shackle and a lesson, less the lesson's refund.
    { name: 'Workshop', amount: -10000 },
  ]);
  await world.undoLast('post-receipts');
  expect((await under()).map((row) => row.amount)).toEqual([0, 0]);
  await world.expectSound();
});

test('the clearing account of a channel, the bank and the receivable are not for choosing', async () => {
  for (const code of ['1200', '1010', '1100', '6100']) {
    const landing = { [code === '6100' ? 'deposit' : 'income']: await world.account(code) };
    expect(await world.refusal(saveMapRule, rule('Wrong', {}, landing))).toBe('account-unfit');
  }
});

test('rules are moved, removed and brought back where they stood', async () => {
  const income = await world.account('4010');
  for (const name of ['A', 'B', 'C']) await world.must(saveMapRule, rule(name, {}, { income }));
  const names = async () =>
    (await world.books.reader.selectFrom('map_rule').select('name').orderBy('position').execute())
      .map((r) => r.name)
      .join('');
  const id = async (name: string) =>
    (await world.books.reader.selectFrom('map_rule').select('id').where('name', '=', name).executeTakeFirstOrThrow())
      .id;
  const undoLast = () => world.undoLast();
  await world.must(moveMapRule, { id: await id('C'), position: 1 });
  expect(await names()).toBe('CAB');
  await undoLast();
  expect(await names()).toBe('ABC');
  await world.must(removeMapRule, { id: await id('B') });
  expect(await names()).toBe('AC');
  await undoLast();
  expect(await names()).toBe('ABC');
});

test('a rule tried on the past says what would move from where to where, what is posted, and what it collides with', async () => {
  const [rigs, repairs, parts] = [
    await world.account('4020'),
    await world.account('4010'),
    await world.account('4040'),
  ];
  await posted();
  await world.must(saveMapRule, rule('Pier', { text: 'pier' }, { income: repairs }));
  const trial = (conditions: MapConditions) =>
    tryRule(world.books.reader, { id: null, name: 'Tried', conditions, landing: { income: rigs } }, TODAY, NO_PROGRESS);

  const all = await trial({});
  expect(all.applies).toEqual({ count: 4, amount: 49200 });
  // The lesson has its item, the refund earns nothing, the pier has its own rule before.
  expect(all.moves).toEqual([
    { field: 'income', from: parts, to: rigs, count: 1, amount: 12300 },
    { field: 'income', from: await world.account('4030'), to: rigs, count: 1, amount: 6150 },
  ]);
  expect(all.collisions).toEqual([{ rule: 1, name: 'Pier', takesOver: false, count: 1, amount: 24600 }]);
  expect([all.moved, all.movedPosted]).toEqual([2, 2]);
  expect((await trial({ text: 'at the pier' })).troubles).toEqual([{ kind: 'shadowed', rule: -1, by: 1 }]);
  expect(await world.count('map_rule')).toBe(1);
});

test('how much fell to which layer adds up to what was collected', async () => {
  await world.must(saveMapRule, rule('Rigs', { text: 'rig' }, { income: await world.account('4020') }));
  const { shares, rules, receipts } = await layerReport(world.books.reader, TODAY, NO_PROGRESS);
  expect(receipts).toBe(4);
  expect(shares.filter((share) => share.field === 'income')).toEqual([
    { channel: 1, field: 'income', layer: 'rule', count: 1, amount: 24600 },
    { channel: 1, field: 'income', layer: 'item', count: 2, amount: 18450 },
  ]);
  expect(rules).toEqual([{ rule: 1, count: 1, amount: 24600 }]);
});

test('changing the map changes nothing posted; posting again is offered with before and after, and books it anew', async () => {
  const before = await posted();
  await world.must(saveMapRule, rule('Rigs', { text: 'rig' }, { income: await world.account('4020') }));
  expect(await world.balances()).toEqual(before);
  const list = await postAgainList(world.books.reader, TODAY, NO_PROGRESS);
  expect(list.count).toBe(1);
  expect(list.listed[0]).toMatchObject({
    name: 'CD-2',
    before: [{ account: await world.account('4040'), amount: -20000, values: [] }],
    after: [{ account: await world.account('4020'), amount: -20000, values: [] }],
  });
  await world.must(repostReceipts, { ids: [list.listed[0]!.id] });
  const after = await world.balances();
  expect([after['4020'], after['4040']]).toEqual([-20000, -10000]);
  expect((await postAgainList(world.books.reader, TODAY, NO_PROGRESS)).count).toBe(0);
  await world.expectSound();
});

test('set aside is not posted with all, says why, and comes back', async () => {
  const id = await world.id('receipt', 'CD-1');
  await world.must(setAside, { ids: [id], reason: 'Test payment' });
  const result = await world.must(postReceipts, { filter: {} });
  expect(result.posted).toBe(3);
  expect(await world.refusal(setAside, { ids: [await world.id('receipt', 'CD-2')], reason: 'x' })).toBe(
    'posted-already',
  );
  await world.must(takeBackAside, { ids: [id] });
  expect((await world.must(postReceipts, { filter: {} })).posted).toBe(1);
});

test('by the day: one entry for all receipts of a day, to the cent what they are one by one', async () => {
  const single = await posted();
  const db = world.books.reader;
  await world.undoLast('post-receipts');
  await world.books.write(
    ({ db: tx }) =>
      tx
        .insertInto('channel_posting')
        .values({ channel_id: 1, from_day: plainDate('2026-11-04'), mode: 'summary' })
        .execute(),
    () => true,
  );
  // Naming one receipt of a day takes the day along; the third is still posted one by one.
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + 'CD-5,receipt,2026-11-04T12:00:00Z,EUR,12.30,,12.30,D. Auk,d@mail.example,,parts,Oil,,\n',
  );
  const day = await world.must(postReceipts, { ids: [await world.id('receipt', 'CD-2')] });
  expect([day.posted, day.entry!.lines.length]).toEqual([2, 5]);
  await world.must(postReceipts, { filter: {} });
  const kinds = await db
    .selectFrom('journal')
    .select('source_kind')
    .where('source_kind', 'in', ['receipt', 'summary'])
    .where('revision', '<', 3)
    .orderBy('id')
    .execute();
  expect(kinds.slice(-4).map((k) => k.source_kind)).toEqual(['summary', 'receipt', 'summary', 'summary']);
  const all = await world.balances();
  for (const code of Object.keys(single)) {
    const oil = { '1200': 1230, '4040': -1000, '2100': -230 }[code] ?? 0;
    expect([code, all[code]]).toEqual([code, single[code]! + oil]);
  }
  await world.expectSound();
});

test('who paid is proposed from the note with its reason, set, made in place, and undone', async () => {
  await world.bringIn(
    receiptsImporter,
    `${DESK_HEAD}CD-7,receipt,2026-11-07T10:00:00Z,EUR,50.00,,50.00,Orla Maher,orla@mail.example,,parts,,,\n` +
      'CD-8,receipt,2026-11-08T10:00:00Z,EUR,51.00,,51.00,,,,parts,"Rig check, Orla M.",,\n',
  );
  const receipt = await world.id('receipt', 'CD-8');
  const [first] = await proposePayers(world.books.reader, receipt);
  expect(first).toMatchObject({ name: 'Orla Maher', because: '“Orla M.” in the note is this name shortened' });
  await world.must(setPayer, { receipt, payer: first!.id });
  expect(await proposePayers(world.books.reader, receipt)).toEqual([]);
  await world.undoLast('set-payer');
  expect(await proposePayers(world.books.reader, receipt)).toHaveLength(1);
  const make = { name: 'Orla Moore', email: 'Orla@mail.example' };
  expect(await world.refusal(setPayer, { receipt, payer: null, make })).toBe('email-taken');
  const made = await world.must(setPayer, { receipt, payer: null, make: { ...make, email: '' } });
  expect(made.payer).toBeGreaterThan(first!.id);
});
