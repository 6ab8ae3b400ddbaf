import {
  addDimension,
  listDimensions,
  removeDimension,
  requireDimension,
  setDimensionValue,
} from '@/books/dimensions/dimensions';
import { setMapDefault } from '@/books/map/defaults';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { DESK_HEAD, useWorld } from './world';

const world = useWorld();

const undoLast = () => world.undoLast();
const only = async () => (await listDimensions(world.books.reader))[0]!;

test('a dimension comes with its values, each once whatever its case, and goes again by undo', async () => {
  await world.must(addDimension, { name: 'Site', values: ['Pier', 'pier', 'Workshop'] });
  expect((await only()).values.map((value) => value.name)).toEqual(['pier', 'Workshop']);
  expect(await world.refusal(addDimension, { name: 'SITE', values: [] })).toBe('name-taken');
  await undoLast();
  expect(await listDimensions(world.books.reader)).toEqual([]);
});

test('a value is switched off and on again; the same twice is refused', async () => {
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier'] });
  expect(await world.refusal(setDimensionValue, { dimension, name: 'Pier', active: true })).toBe('name-taken');
  await world.must(setDimensionValue, { dimension, name: 'Pier', active: false });
  expect((await only()).values[0]!.active).toBe(0);
  await undoLast();
  expect((await only()).values[0]!.active).toBe(1);
  await world.must(setDimensionValue, { dimension, name: 'Slip', active: true });
  expect((await only()).values.map((value) => value.name)).toEqual(['Pier', 'Slip']);
  expect(await world.refusal(setDimensionValue, { dimension: 99, name: 'X', active: true })).toBe('not-found');
});

test('it is asked for on income and expense accounts only, and no longer asked for by undo', async () => {
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier'] });
  const bank = await world.account('1010');
  expect(await world.refusal(requireDimension, { dimension, account: bank, required: true })).toBe('account-unfit');
  const parts = await world.account('4040');
  await world.must(requireDimension, { dimension, account: parts, required: true });
  await world.must(requireDimension, { dimension, account: parts, required: true });
  expect((await only()).requiredOn).toEqual([parts]);
  await undoLast();
  expect((await only()).requiredOn).toEqual([]);
});

test('what is booked under a dimension keeps it in the books', async () => {
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier'] });
  const value = (await only()).values[0]!.id;
  await world.must(setMapDefault, { layer: 'books', ref: 1, field: `dimension:${dimension}`, value });
  await world.bringIn(
    receiptsImporter,
    `${DESK_HEAD}A,receipt,2026-11-09T10:00:00Z,EUR,12.30,,12.30,P,p@mail.example,,parts,,,\n`,
  );
  await world.must(postReceipts, { filter: {} });
  expect(await world.refusal(removeDimension, { id: dimension })).toBe('in-use');
  expect(await world.refusal(removeDimension, { id: 99 })).toBe('not-found');
});

describe('defaults behind the rules', () => {
  const decided = async () => {
    await world.bringIn(
      receiptsImporter,
      `${DESK_HEAD}A,receipt,2026-11-09T10:00:00Z,EUR,12.30,,12.30,P,p@mail.example,,,,,\n`,
    );
    const result = await world.run(postReceipts, { ids: [await world.id('receipt', 'A')] }, true);
    if (!result.ok) return result.refusal.code;
    return result.value
      .entry!.lines.filter((line) => line.code.startsWith('4'))
      .map((line) => [line.code, line.because]);
  };

  test('a payer’s own account comes before the channel’s', async () => {
    await world.bringIn(
      receiptsImporter,
      `${DESK_HEAD}Z,receipt,2026-11-08T10:00:00Z,EUR,1.00,,1.00,P,p@mail.example,,,,,\n`,
    );
    const payer = await world.books.reader.selectFrom('payer').select('id').executeTakeFirstOrThrow();
    await world.must(setMapDefault, {
      layer: 'payer',
      ref: payer.id,
      field: 'income',
      value: await world.account('4030'),
    });
    expect(await decided()).toEqual([['4030', 'payer P']]);
  });

  test('the books decide where the channel leaves it to them; where nothing decides, the receipt waits', async () => {
    await world.must(setMapDefault, { layer: 'channel', ref: 1, field: 'income', value: null });
    expect(await decided()).toBe('nothing-decides');
    await world.must(setMapDefault, { layer: 'books', ref: 1, field: 'income', value: await world.account('4010') });
    const result = await world.run(postReceipts, { ids: [await world.id('receipt', 'A')] }, true);
    expect(result.ok && result.value.entry!.lines.find((line) => line.code === '4010')?.because).toBe(
      'default of these books',
    );
  });

  test('a default that is set goes back by undo, and an item always has one', async () => {
    const before = await world.books.reader
      .selectFrom('channel')
      .select(['income_account_id', 'tax_code_id'])
      .executeTakeFirstOrThrow();
    await world.must(setMapDefault, { layer: 'channel', ref: 1, field: 'taxCode', value: 2 });
    await undoLast();
    const after = await world.books.reader
      .selectFrom('channel')
      .select(['income_account_id', 'tax_code_id'])
      .executeTakeFirstOrThrow();
    expect(after).toEqual(before);
    expect(await world.refusal(setMapDefault, { layer: 'item', ref: 1, field: 'income', value: null })).toBe(
      'invalid-input',
    );
    expect(await world.refusal(setMapDefault, { layer: 'channel', ref: 99, field: 'income', value: null })).toBe(
      'not-found',
    );
    expect(await world.refusal(setMapDefault, { layer: 'channel', ref: 1, field: 'colour', value: 1 })).toBe(
      'invalid-input',
    );
    const clearing = await world.account('1200');
    expect(await world.refusal(setMapDefault, { layer: 'books', ref: 1, field: 'income', value: clearing })).toBe(
      'account-unfit',
    );
  });
});
