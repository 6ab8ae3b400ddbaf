import { postAgainList, repostReceipts } from '@/books/map/repost';
import { saveMapRule } from '@/books/map/rules';
import { NO_PROGRESS } from '@/books/command';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { receiptDetail } from '@/books/receipts/detail';
import { receiptsImporter } from '@/books/receipts/import';
import { keepReading, keptReadings } from '@/books/receipts/readings';
import { listReceipts } from '@/books/receipts/list';
import { postReceipts } from '@/books/receipts/post';
import { takeChange } from '@/books/receipts/take-change';
import { plainDate } from '@/core/calendar';
import { TILL_PROFILE } from './channel-fixtures';
import { DESK_HEAD, FIGURE_A, useWorld } from './world';

const world = useWorld();

const undo = (command?: string) => world.undoLast(command);
const row = (gross: string, fee: string, net: string, more = ',,,,parts,rope,,') =>
  `R-1,receipt,2026-11-05T10:00:00Z,EUR,${gross},${fee},${net}${more}\n`;
const desk = (text: string) => world.bringIn(receiptsImporter, DESK_HEAD + text);
const detail = async () => (await receiptDetail(world.books.reader, await world.id('receipt', 'R-1')))!;

describe('a change at the source', () => {
  test('not posted yet is taken over, put back and taken over again', async () => {
    await desk(row('10.00', '0.44', '9.56'));
    expect(await desk(row('12.00', '0.48', '11.52'))).toMatchObject({ changed: 1 });
    expect((await listReceipts(world.books.reader, { state: 'changed' }, null)).totals.count).toBe(1);
    const receipt = await world.id('receipt', 'R-1');
    await world.must(takeChange, { receipt });
    expect(await detail()).toMatchObject({ gross: 1200, fee: 48, change: null });
    await undo();
    expect(await detail()).toMatchObject({ gross: 1000, fee: 44, change: { gross: 1200, fee: 48 } });
    await undo();
    expect(await detail()).toMatchObject({ gross: 1200, change: null });
  });

  test('posted is reversed and posted anew; put back, the entry is as it was, line for line', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.must(postInvoices, { filter: {} });
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    await world.must(postReceipts, { filter: {} });
    const before = await world.balances();
    const paid = async () =>
      (await world.books.reader.selectFrom('invoice').select('paid').executeTakeFirstOrThrow()).paid;
    const changed = FIGURE_A.desk.replaceAll('147.60', '100.00').replaceAll('144.55', '96.95');
    expect(await world.bringIn(receiptsImporter, changed)).toMatchObject({ changed: 1 });
    const receipt = await world.id('receipt', 'CD-1');
    await world.must(takeChange, { receipt });
    expect(await paid()).toBe(10000);
    expect((await world.balances())['1100']).toBe(4760);
    // The map has moved on since; what is put back is what was posted.
    await world.must(saveMapRule, {
      id: null,
      name: 'Fees elsewhere',
      active: true,
      conditions: { channels: [1] },
      landing: { fees: await world.account('6110') },
    });
    await undo('take-change');
    expect(await world.balances()).toEqual(before);
    expect(await paid()).toBe(14760);
    expect(await world.refusal(takeChange, { receipt: 999 })).toBe('not-found');
  });
});

describe('posting again by the map', () => {
  test('can be taken back: every receipt stands as it was posted, whatever the map says now', async () => {
    await desk(row('10.00', '0.44', '9.56') + row('20.00', '0.63', '19.37').replace('R-1', 'R-2'));
    await world.must(postReceipts, { filter: {} });
    const before = await world.balances();
    await world.must(saveMapRule, {
      id: null,
      name: 'Rope',
      active: true,
      conditions: { text: 'rope' },
      landing: { income: await world.account('4010') },
    });
    const list = await postAgainList(world.books.reader, plainDate('2026-11-16'), NO_PROGRESS);
    expect([list.count, list.listed.map(({ name }) => name).sort()]).toEqual([2, ['R-1', 'R-2']]);
    await world.must(repostReceipts, { ids: list.listed.map(({ id }) => id) });
    expect(await world.balances()).toMatchObject({ '4010': -2439 });
    expect((await postAgainList(world.books.reader, plainDate('2026-11-16'), NO_PROGRESS)).count).toBe(0);
    await undo();
    expect(await world.balances()).toEqual(before);
    expect((await postAgainList(world.books.reader, plainDate('2026-11-16'), NO_PROGRESS)).count).toBe(2);
    await undo();
    expect(await world.balances()).toMatchObject({ '4010': -2439 });
  });
});

describe('one receipt', () => {
  test('is told with where it came from, what it was for and where it landed', async () => {
    await desk(row('10.00', '0.44', '9.56', ',Ann Weir,ann@mail.example,KS-9,,for the boat,P-1,'));
    expect(await detail()).toMatchObject({
      name: 'R-1',
      kind: 'receipt',
      channel: 'Card desk',
      channelKind: 'card-desk',
      payer: 'Ann Weir',
      email: 'ann@mail.example',
      document: 'KS-9',
      invoice: null,
      note: 'for the boat',
      takesBack: '',
      payout: 'P-1',
      payoutId: null,
      site: null,
      lines: [],
      tenders: [],
      currency: 'EUR',
      journal: null,
      aside: null,
      change: null,
      landing: {},
    });
    expect(await receiptDetail(world.books.reader, 99)).toBeNull();
  });

  test.each([
    ['not-posted', 1],
    ['posted', 0],
    ['in-transit', 0],
    ['banked', 0],
    ['aside', 0],
    ['changed', 0],
  ] as const)('new in the books is %s in %d list', async (state, count) => {
    await desk(row('10.00', '0.44', '9.56'));
    const shown = async (filter: object) => (await listReceipts(world.books.reader, filter, null)).totals.count;
    expect(await shown({ state })).toBe(count);
    expect(await shown({ state, channel: 1, kind: 'receipt', from: '2026-11-05', to: '2026-11-05', text: 'rop' })).toBe(
      count,
    );
    for (const other of [
      { channel: 2 },
      { kind: 'refund' },
      { from: '2026-11-06' },
      { to: '2026-11-04' },
      { text: '%' },
    ]) {
      expect(await shown({ state, ...other })).toBe(0);
    }
  });
});

describe('kept readings', () => {
  const settings = TILL_PROFILE;
  test('are forgotten and kept again by undo, with the day they were used on', async () => {
    const reading = { fingerprint: 'ref|day|paid|by', settings, usedAt: '2026-11-01T10:00:00.000Z' };
    await world.must(keepReading, reading);
    expect(await keptReadings(world.books.reader)).toEqual([reading]);
    await world.must(keepReading, { fingerprint: reading.fingerprint, settings: null });
    expect(await keptReadings(world.books.reader)).toEqual([]);
    expect(await world.refusal(keepReading, { fingerprint: reading.fingerprint, settings: null })).toBe('not-found');
    await undo();
    expect(await keptReadings(world.books.reader)).toEqual([reading]);
  });
});
