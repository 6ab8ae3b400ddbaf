import { keyGiftBatch, knownFunds, listGiftBatches, type GiftRow } from '@/books/by-hand/gift-batch';
import { keyReceipt, type KeyedReceipt } from '@/books/by-hand/key-receipt';
import { takingPlaces } from '@/books/by-hand/places';
import { giftsOfYear, listGifts, printedYear, thankForGifts } from '@/books/by-hand/thank';
import { openChannel } from '@/books/channels/open-channel';
import { addDimension, requireDimension } from '@/books/dimensions/dimensions';
import { confirmMatch } from '@/books/matching/confirm';
import { creditsOf } from '@/books/settling/open';
import { statementImporter } from '@/books/statements/import';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { payerNamed } from './bills';
import { tillSettings } from './channel-fixtures';
import { statement, useWorld } from './world';

const world = useWorld();

const DESK = { channel: 1, site: null, method: '' } as const;
const keyed = (more: Partial<KeyedReceipt> = {}): KeyedReceipt => ({
  place: DESK,
  date: plainDate('2026-11-10'),
  payer: null,
  reference: '',
  lines: [{ item: null, description: '', amount: minor(12300) }],
  dimensions: [],
  fund: '',
  note: '',
  paysBack: null,
  ...more,
});
const undo = () => world.undoLast();
const itemId = async (code: string) =>
  (await world.books.reader.selectFrom('item').select('id').where('code', '=', code).executeTakeFirstOrThrow()).id;

/** A channel for cash and cheques with one box. */
async function post() {
  const settings = await tillSettings(world, {
    kind: 'cash-and-cheques',
    name: 'Post',
    sites: [{ code: 'BOX', name: 'Box', cash: { make: { code: '1060', name: 'Envelopes' } }, bank: null }],
  });
  return (await world.must(openChannel, { draft: null, settings })).channel;
}

test('a paid sale is posted at once: price with its tax, by item', async () => {
  const [repair, lesson] = [await itemId('repair'), await itemId('lesson')];
  const lines = [
    { item: repair, description: 'patch', amount: minor(12300) },
    { item: lesson, description: '', amount: minor(11350) },
  ];
  const made = await world.must(keyReceipt, keyed({ lines, reference: 'CONF-77' }));
  expect(made.posting).toMatchObject({ posted: 1, gross: 23650 });
  expect(await world.balances()).toMatchObject({ '1200': 23650, '4010': -10000, '4030': -10000, '2100': -3650 });
  expect(await world.refusal(keyReceipt, keyed({ reference: 'CONF-77' }))).toBe('name-taken');
});

test('numbers of its own where it has no reference; taken back it is reversed and kept aside, and put back', async () => {
  const before = await world.balances();
  const { reference } = await world.must(keyReceipt, keyed());
  expect(reference).toMatch(/^H-\d+$/);
  const after = await world.balances();
  await undo();
  expect(await world.balances()).toEqual(before);
  await undo();
  expect(await world.balances()).toEqual(after);
});

test('cash and cheques are where they are, not with a channel', async () => {
  const channel = await post();
  const places = await takingPlaces(world.books.reader);
  expect(places.map(({ label }) => label)).toEqual(['Card desk', 'Post, Box: cash']);
  const box = places[1]!;
  await world.must(keyReceipt, keyed({ place: { channel, site: box.site, method: 'cash' } }));
  expect(await world.balances()).toMatchObject({ '1060': 12300 });
  expect((await world.balances())['1200']).toBeUndefined();
});

test('what cannot be posted is not keyed: nothing is half there', async () => {
  const { dimension } = await world.must(addDimension, { name: 'Fund', values: ['General'] });
  await world.must(requireDimension, { dimension, account: await world.account('4040'), required: true });
  expect(await world.refusal(keyReceipt, keyed({ fund: 'General' }))).toBe('dimension-missing');
  expect([await world.count('receipt'), await world.count('run')]).toEqual([0, 0]);
  const value = await world.books.reader.selectFrom('dimension_value').select('id').executeTakeFirstOrThrow();
  await world.must(keyReceipt, keyed({ fund: 'General', dimensions: [[dimension, value.id]] }));
  expect(await knownFunds(world.books.reader)).toEqual(['General']);
});

test('credit is paid back the way it came', async () => {
  const payer = await payerNamed(world);
  await world.must(keyReceipt, keyed({ payer, reference: 'A-1' }));
  await world.books.write(
    async ({ db }) => db.updateTable('receipt').set({ document: 'none' }).execute(),
    () => true,
  );
  await undo();
  await undo();
  expect((await creditsOf(world.books.reader, payer)).map(({ left }) => left)).toEqual([12300]);
  await world.must(
    keyReceipt,
    keyed({ payer, reference: 'A-2', paysBack: 'A-1', lines: [{ item: null, description: '', amount: minor(5000) }] }),
  );
  expect((await creditsOf(world.books.reader, payer)).map(({ left }) => left)).toEqual([7300]);
  expect(await world.balances()).toMatchObject({ '2200': -7300, '1200': 7300 });
});

describe('a gift batch', () => {
  const row = (fund: string, amount: number, more: Partial<GiftRow> = {}): GiftRow => ({
    place: DESK,
    fund,
    item: null,
    dimensions: [],
    payer: null,
    amount: minor(amount),
    note: '',
    ...more,
  });
  const batch = (rows: GiftRow[], reference = '2026-09-13') => ({
    channel: 1,
    first: plainDate('2026-09-07'),
    last: plainDate('2026-09-13'),
    reference,
    rows,
  });

  test('figure G: gross on the batch’s last day, then the bank tells the fee, shared over the funds', async () => {
    const { dimension } = await world.must(addDimension, { name: 'Fund', values: ['General', 'Lens'] });
    const values = await world.books.reader.selectFrom('dimension_value').selectAll().orderBy('id').execute();
    const dims = (index: number) => [[dimension, values[index]!.id]] as const;
    const made = await world.must(
      keyGiftBatch,
      batch([row('General', 48000, { dimensions: dims(0) }), row('Lens', 22000, { dimensions: dims(1) })]),
    );
    expect(made).toMatchObject({ gifts: 2, gross: 70000 });
    expect(await world.balances()).toMatchObject({ '1200': 70000 });
    expect(await listGiftBatches(world.books.reader)).toMatchObject([
      { reference: '2026-09-13', gifts: 2, gross: 70000 },
    ]);
    await world.bringInBytes(
      statementImporter,
      Buffer.from(statement(100_000, ['2026-09-17', 68190, 'GIVING 1309'])),
      's.csv',
    );
    const parts = [await world.id('receipt', '2026-09-13/1'), await world.id('receipt', '2026-09-13/2')].map((id) => ({
      kind: 'receipt' as const,
      id,
    }));
    const line = await world.id('statement_line', 'GIVING 1309');
    await world.must(confirmMatch, { line, parts, restTo: await world.account('6100') });
    expect((await world.balances())['1200']).toBeUndefined();
    const { rows } = {
      rows: await world.books.reader
        .selectFrom('journal_line')
        .select('base_amount')
        .where('account_id', '=', await world.account('6100'))
        .orderBy('base_amount')
        .execute(),
    };
    expect(rows.map((one) => one.base_amount)).toEqual([569, 1241]);
  });

  test('is keyed once; refused whole; taken back whole', async () => {
    await world.must(keyGiftBatch, batch([row('General', 100)]));
    expect(await world.refusal(keyGiftBatch, batch([row('General', 100)]))).toBe('name-taken');
    const counts = [await world.count('receipt'), await world.count('gift_batch')];
    const bad = row('General', 100, { place: { channel: 99, site: null, method: '' } });
    expect(await world.refusal(keyGiftBatch, batch([row('General', 100), bad], 'w2'))).toBe('not-found');
    expect(await world.refusal(keyGiftBatch, batch([], 'w3'))).toBe('invalid-input');
    expect([await world.count('receipt'), await world.count('gift_batch')]).toEqual(counts);
    await undo();
    expect((await world.balances())['1200']).toBeUndefined();
  });
});

test('donors with an email are thanked once; a year’s statement has each gift', async () => {
  const payer = await payerNamed(world, 'R. Fulmar');
  await world.must(keyReceipt, keyed({ payer, fund: 'General', reference: 'G-1' }));
  await world.must(keyReceipt, keyed({ fund: 'General', reference: 'G-2' }));
  const { rows } = await listGifts(world.books.reader, true);
  expect(rows.map(({ reference }) => reference)).toEqual(['G-1']);
  const ids = [await world.id('receipt', 'G-1'), await world.id('receipt', 'G-2')];
  expect((await world.must(thankForGifts, { receipts: ids })).mails).toHaveLength(1);
  expect(await world.refusal(thankForGifts, { receipts: ids })).toBe('not-found');
  const mail = await world.books.reader
    .selectFrom('mail')
    .innerJoin('mail_attachment', 'mail_id', 'mail.id')
    .selectAll()
    .executeTakeFirstOrThrow();
  expect(mail).toMatchObject({ recipient: 'r.fulmar@mail.example', name: 'receipt-G-1.pdf' });
  expect((await giftsOfYear(world.books.reader, payer, 2026)).map(({ amount }) => amount)).toEqual([12300]);
  expect(await printedYear(world.books.reader, payer, 2025)).toBeNull();
  expect((await printedYear(world.books.reader, payer, 2026))!.name).toBe('gifts-2026.pdf');
});
