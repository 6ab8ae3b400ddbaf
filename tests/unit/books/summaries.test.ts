import { setPostingMode } from '@/books/channels/open-channel';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { reverse } from '@/books/ledger/reverse';
import { repostReceipts } from '@/books/map/repost';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { setAside } from '@/books/receipts/set-aside';
import { takeChange } from '@/books/receipts/take-change';
import { plainDate } from '@/core/calendar';
import { DESK_HEAD, FIGURE_A, INVOICE_HEAD, useWorld } from './world';

const world = useWorld();
beforeEach(async () => {
  await world.must(setPostingMode, { channel: 1, mode: 'summary', from: plainDate('2026-01-01') });
});

const row = (id: string, gross: string, document = '', day = '2026-11-09') =>
  `${id},receipt,${day}T10:00:00Z,EUR,${gross},0.30,,P,p@mail.example,${document},${document ? '' : 'parts'},,,\n`;
const journals = async () =>
  (await world.books.reader.selectFrom('journal').select(['source_kind', 'memo']).orderBy('id').execute()).slice(1);

test('receipts on invoices are summed too, and settle each its own', async () => {
  await world.bringIn(
    invoicesImporter,
    `${INVOICE_HEAD}K-1,P,p@mail.example,2026-11-02,2026-11-23,EUR,repair,10.00,S23,2.30\nK-2,P,p@mail.example,2026-11-02,2026-11-23,EUR,repair,20.00,S23,4.60\n`,
  );
  await world.must(postInvoices, { filter: {} });
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + row('A', '12.30', 'K-1') + row('B', '20.00', 'K-2') + row('C', '6.15'),
  );
  const posting = await world.must(postReceipts, { filter: {} });
  expect([posting.posted, posting.gross]).toEqual([3, 3845]);
  expect(posting.entry!.lines.map((line) => [line.code, line.amount, line.because])).toEqual([
    ['1200', 3845, '3 receipts: Card desk holds it until it pays out'],
    ['6100', 90, '3 receipts: fee that Card desk states'],
    ['1100', -3230, '2 receipts: settles invoices'],
    ['1200', -90, '3 receipts: fee that Card desk states'],
    ['4040', -500, '1 receipt: item parts'],
    ['2100', -115, '1 receipt: tax code S23, 23 %: item parts'],
  ]);
  const paid = await world.books.reader.selectFrom('invoice').select(['number', 'paid']).orderBy('number').execute();
  expect(paid).toEqual([
    { number: 'K-1', paid: 1230 },
    { number: 'K-2', paid: 2000 },
  ]);
  await world.expectSound();
});

test('a summary is reversed as a whole, its receipts wait again, and undo posts the day again', async () => {
  await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '12.30') + row('B', '6.15'));
  const { journals: written } = await world.must(postReceipts, { filter: {} });
  const before = await world.balances();
  await world.must(reverse, written!);
  expect((await world.balances())['1200']).toBeUndefined();
  await world.undoLast();
  expect(await world.balances()).toEqual(before);
  expect((await journals()).map((journal) => journal.source_kind)).toEqual(['summary', 'reversal', 'summary']);
  await world.expectSound();
});

test('what comes late for a day that is posted is a second summary of it', async () => {
  await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '12.30'));
  await world.must(postReceipts, { filter: {} });
  await world.bringIn(receiptsImporter, DESK_HEAD + row('B', '6.15'));
  await world.must(postReceipts, { filter: {} });
  expect((await journals()).map((journal) => journal.memo)).toEqual([
    'Card desk, 9 Nov: 1 receipt',
    'Card desk, 9 Nov: 1 receipt',
  ]);
  expect(await world.count('summary')).toBe(2);
});

test('one receipt of a summary is not taken out of it alone', async () => {
  await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '12.30') + row('B', '6.15'));
  await world.must(postReceipts, { filter: {} });
  const id = await world.id('receipt', 'A');
  expect(await world.refusal(repostReceipts, { ids: [id] })).toBe('in-summary');
  expect(await world.refusal(setAside, { ids: [id], reason: 'x' })).toBe('posted-already');
  await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '13.00'));
  expect(await world.refusal(takeChange, { receipt: id })).toBe('in-summary');
  expect(await world.refusal(takeChange, { receipt: 999 })).toBe('not-found');
  expect(await world.refusal(repostReceipts, { ids: [999, id] })).toBe('in-summary');
});

test('a receipt that cannot be posted is left out of its day, which is posted without it', async () => {
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '12.30') + row('B', '147.60', 'KS-2041'));
  const posting = await world.must(postReceipts, { filter: {} });
  expect([posting.posted, posting.notPosted.map((left) => left.refusal.code)]).toEqual([1, ['invoice-not-posted']]);
  await world.must(postInvoices, { filter: {} });
  expect((await world.must(postReceipts, { filter: {} })).posted).toBe(1);
  await world.expectSound();
});
