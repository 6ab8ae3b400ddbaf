import { NO_PROGRESS } from '@/books/command';
import { openChannel } from '@/books/channels/open-channel';
import { addDimension, requireDimension } from '@/books/dimensions/dimensions';
import { layerReport } from '@/books/map/layers';
import { removeMapRule, saveMapRule } from '@/books/map/rules';
import { tryRule, type RuleToTry } from '@/books/map/try-rule';
import { postedJournal } from '@/books/ledger/entry-view';
import { receiptsFrom } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { plainDate } from '@/core/calendar';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { TILL_PROFILE, tillSettings } from './channel-fixtures';
import { useWorld } from './world';

const TODAY = plainDate('2026-11-16');
const DAYS: ReceiptProfile = {
  ...TILL_PROFILE,
  columns: { time: 'Day', kind: 'Kind', item: 'What', note: 'More', gross: 'Amount', site: 'Site' },
  delimiter: ',',
  decimal: '.',
  dateOrder: 'YMD',
  shape: 'till-days',
  tenders: ['paid'],
};
const SALES = [
  'Day,Kind,What,More,Amount,Site',
  '2026-11-12,sale,lesson,half day,90.00,TEA',
  '2026-11-12,sale,parts,rope,12.30,TEA',
  '2026-11-12,sale,,mug with a gull,7.00,TEA',
  '2026-11-12,paid,cash,,60.00,TEA',
  '2026-11-12,paid,card,,49.30,TEA',
].join('\n');

const world = useWorld();
let till: number;
beforeEach(async () => {
  till = (await world.must(openChannel, { draft: null, settings: await tillSettings(world, { mode: 'each' }) }))
    .channel;
  await world.bringIn(receiptsFrom({ channel: till, profile: { fingerprint: 'days', settings: DAYS } }), SALES);
});

const id = () => world.id('receipt', 'day TEA 2026-11-12');
const undo = () => world.undoLast();
/** The entry the day wrote: accounts with amounts and reasons. */
async function entry(): Promise<string[]> {
  const { journal_id: journal } = await world.books.reader
    .selectFrom('receipt')
    .select('journal_id')
    .where('id', '=', await id())
    .executeTakeFirstOrThrow();
  const { lines } = (await postedJournal(world.books.reader, journal!))!;
  return lines.map((line) => `${line.code} ${line.amount}: ${line.because}`);
}
const tried = (rule: Partial<RuleToTry>) =>
  tryRule(world.books.reader, { id: null, name: 'Tried', conditions: {}, landing: {}, ...rule }, TODAY, NO_PROGRESS);

describe('each thing of a day is asked of the map for itself', () => {
  test('by its item, by a rule on its text, by the channel; each says why', async () => {
    await world.must(saveMapRule, {
      id: null,
      name: 'Gulls',
      active: true,
      conditions: { text: 'gull' },
      landing: { income: await world.account('4010') },
    });
    await world.must(postReceipts, { ids: [await id()] });
    const lines = await entry();
    expect(lines).toEqual(
      expect.arrayContaining([
        expect.stringMatching(/^4030 -7930: item lesson/),
        expect.stringMatching(/^4040 -1000: item parts/),
        expect.stringMatching(/^4010 -569: rule .*Gulls/),
        expect.stringMatching(/^1030 6000: .*Tea hatch/),
        expect.stringMatching(/^1210 4930: .*card/),
      ]),
    );
  });

  test('a rule tried counts the day once and its money by the thing', async () => {
    const trial = await tried({ conditions: { text: 'gull' }, landing: { income: await world.account('4010') } });
    expect(trial).toMatchObject({ looked: 1, applies: { count: 1, amount: 700 }, moved: 1, movedPosted: 0 });
    expect(trial.moves).toEqual([
      { field: 'income', from: await world.account('4040'), to: await world.account('4010'), count: 1, amount: 700 },
    ]);
    const whole = await tried({ conditions: { channels: [till] }, landing: { income: await world.account('4010') } });
    expect(whole.applies).toEqual({ count: 1, amount: 10930 });
    expect([whole.moved, whole.moves.reduce((sum, move) => sum + move.amount, 0)]).toEqual([1, 10930]);
  });

  test('a rule that collides with another says with which, and which of them wins', async () => {
    const { rule } = await world.must(saveMapRule, {
      id: null,
      name: 'Gulls',
      active: true,
      conditions: { text: 'gull' },
      landing: { income: await world.account('4010') },
    });
    const trial = await tried({ conditions: { text: 'mug' }, landing: { income: await world.account('4020') } });
    expect(trial).toMatchObject({
      moved: 0,
      collisions: [{ rule, name: 'Gulls', takesOver: false, count: 1, amount: 700 }],
    });
    await world.must(removeMapRule, { id: rule });
    expect((await tried({ conditions: { text: 'mug' }, landing: { income: await world.account('4020') } })).moved).toBe(
      1,
    );
    await undo();
    expect((await tried({ conditions: { text: 'mug' }, landing: { income: await world.account('4020') } })).moved).toBe(
      0,
    );
  });

  test('what fell to which layer adds up to what was sold, thing by thing', async () => {
    const { shares, fallen } = await layerReport(world.books.reader, TODAY, NO_PROGRESS);
    const income = shares.filter((share) => share.field === 'income' && share.channel === till);
    expect(Object.fromEntries(income.map(({ layer, amount }) => [layer, amount]))).toEqual({
      item: 10230,
      channel: 700,
    });
    expect(fallen).toMatchObject([{ channel: till, text: 'mug with a gull', amount: 700 }]);
  });

  test('a dimension that an account asks for is missing for one thing, and the day waits with its name', async () => {
    const { dimension } = await world.must(addDimension, { name: 'Berth', values: ['North'] });
    const account = await world.account('4030');
    await world.must(requireDimension, { dimension, account, required: true });
    const refused = await world.run(postReceipts, { ids: [await id()] });
    expect(refused).toMatchObject({ ok: false, refusal: { code: 'dimension-missing', dimension: 'Berth' } });
    const value = await world.books.reader.selectFrom('dimension_value').select('id').executeTakeFirstOrThrow();
    await world.must(saveMapRule, {
      id: null,
      name: 'North',
      active: true,
      conditions: { items: [3] },
      landing: { dimensions: { [dimension]: value.id } },
    });
    await world.must(postReceipts, { ids: [await id()] });
    const dimensions = await world.books.reader.selectFrom('journal_line_dimension').select('value_id').execute();
    expect(dimensions).toEqual([{ value_id: value.id }]);
  });
});
