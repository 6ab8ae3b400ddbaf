import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { parse } from 'csv-parse/sync';
import { BlobStore } from '@/adapters/blob-store';
import { exportCsv } from '@/books/lists/export';
import { accountBalances } from '@/books/ledger/balances';
import { feeChecks } from '@/books/proof/fee-check';
import { columnsOf } from '@/books/setup/import-list';
import { listLines } from '@/books/statements/list';
import { listPayers } from '@/books/payers/list';
import { listPayouts } from '@/books/payouts/list';
import { listReceipts } from '@/books/receipts/list';
import { railOf } from '@/books/today/rail';
import { worklist } from '@/books/today/worklist';
import { BooksFile } from '@/books/store';
import { plainDate } from '@/core/calendar';
import { loadDriftline } from '../../../demo/driftline/load';

const TODAY = plainDate('2026-11-16');
let folder: string;
let books: BooksFile;
beforeAll(async () => {
  folder = mkdtempSync(join(tmpdir(), 'nest-egg-exports-'));
  await loadDriftline(folder, () => {});
  books = new BooksFile(join(folder, 'books', 'driftline.sqlite'));
}, 60_000);
afterAll(async () => {
  await books.close();
  rmSync(folder, { recursive: true });
});

/** Rows of an export by their column names, as another program reads them. */
async function exported(list: string, search: Record<string, string> = {}): Promise<Record<string, string>[]> {
  const blobs = new BlobStore(join(folder, 'files', 'driftline'));
  const lines = exportCsv(list, {
    books,
    currency: 'EUR',
    today: TODAY,
    search,
    fileBytes: (hash) => blobs.bytes(hash),
  });
  if (lines === null) throw new Error(`no list ${list}`);
  let text = '';
  for await (const part of lines) text += part;
  return parse(text, { columns: true, bom: true });
}

const cents = (text: string) => Math.round(Number(text) * 100);
const sum = (rows: readonly Record<string, string>[], column: string) =>
  rows.reduce((total, row) => total + cents(row[column]!), 0);

test('receipts: every one, its money in its own currency, adding up to what the list says', async () => {
  const rows = await exported('receipts');
  const { totals } = await listReceipts(books.reader, {}, null);
  expect(rows).toHaveLength(totals.count);
  const [pounds] = totals.others;
  expect(
    sum(
      rows.filter((row) => row.Currency === 'EUR'),
      'Gross',
    ),
  ).toBe(totals.gross);
  expect(
    sum(
      rows.filter((row) => row.Currency === 'GBP'),
      'Gross',
    ),
  ).toBe(pounds!.gross);
  expect(new Set(rows.map((row) => row.Type))).toEqual(new Set(['receipt', 'refund', 'chargeback']));
});

test('what is filtered is exported as it is filtered', async () => {
  const wallet = await exported('receipts', { channel: '3', state: 'not-posted' });
  expect(wallet.length).toBe(
    (await listReceipts(books.reader, { channel: 3, state: 'not-posted' }, null)).totals.count,
  );
  expect(new Set(wallet.map((row) => row.Currency))).toEqual(new Set(['GBP']));
  expect((await exported('receipts', { kind: 'chargeback', channel: '1' })).every((row) => row.Note !== '')).toBe(true);
});

test('payouts: net is gross less fees, in the currency of the channel', async () => {
  const rows = await exported('payouts');
  for (const row of rows) expect(cents(row.Net!)).toBe(cents(row.Gross!) - cents(row.Fees!));
  const { totals } = await listPayouts(books.reader, {}, TODAY, null);
  expect(
    sum(
      rows.filter((row) => row.Currency === 'EUR'),
      'Net',
    ),
  ).toBe(totals.net);
  expect(
    sum(
      rows.filter((row) => row.Currency === 'GBP'),
      'Net',
    ),
  ).toBe(totals.others[0]!.net);
});

test('payers: page after page, each once, in order of their names', async () => {
  const rows = await exported('payers');
  const { count } = await listPayers(books.reader, '', null);
  expect(rows).toHaveLength(count);
  const names = rows.map((row) => row.Name!);
  expect(names).toEqual([...names].sort());
  expect(sum(rows, 'Open')).toBe((await railOf(books.reader, new Date())).owed.amount);
  expect(await exported('payers', { text: 'eamon.dunmoor' })).toHaveLength(1);
});

test('a day: what was sold and how it was paid, of one channel', async () => {
  const rows = await exported('day', { channel: '3', date: '2026-11-12' });
  expect(rows.map((row) => [row.Site, row.What, row.Paid])).toEqual([
    ['Card wallet', 'Gift box', '48.00'],
    ['Card wallet', 'Sold', '48.00'],
    ['Card wallet', 'Tips', '0.00'],
    ['Card wallet', 'Paid on invoices', '0.00'],
    ['Card wallet', 'Given back or taken back', '0.00'],
    ['Card wallet', 'Paid by not said', '48.00'],
    ['Card wallet', 'All tenders', '48.00'],
  ]);
  expect(await exported('day', { channel: '99' })).toEqual([]);
});

test('a trial balance foots, on any day; a run without refused rows has none to hand back', async () => {
  for (const date of ['2026-08-31', '2026-10-15', '2026-11-16']) {
    const rows = await exported('trial-balance', { date });
    expect(sum(rows, 'Debits')).toBe(sum(rows, 'Credits'));
    expect(sum(rows, 'Balance')).toBe(0);
  }
  expect(await exported('refused-1')).toEqual([]);
});

test('Today tells what waits in the currency it is in', async () => {
  const items = await worklist(books.reader, await railOf(books.reader, new Date()));
  expect(items.every(({ currency }) => currency === undefined || currency === 'EUR')).toBe(true);
  expect(items.map(({ action }) => action)).toEqual(expect.arrayContaining(['Say who', 'Post', 'Close']));
});

test('what a channel charged otherwise: all of it, adding up to what the fee check says', async () => {
  const check = (await feeChecks(books.reader)).find(({ name }) => name === 'Debit bureau')!;
  const rows = await exported('charged-otherwise', { channel: String(check.channel) });
  const of = (kind: string) => rows.filter((row) => row.Kind === kind);
  const more = (kind: string) =>
    of(kind).reduce((total, row) => total + cents(row.Charged!) - cents(row['By schedule']!), 0);
  expect([of('receipt').length, more('receipt')]).toEqual([check.otherwise, check.difference]);
  for (const [kind, { count, difference }] of [
    ['payout', check.payouts],
    ['deposit', check.deposits],
  ] as const)
    expect([kind, of(kind).length, more(kind)]).toEqual([kind, count, difference]);
  expect(new Set(rows.map((row) => row.Currency))).toEqual(new Set(['EUR']));
  expect(await exported('charged-otherwise', { channel: '99' })).toEqual([]);
});

test('lists that are brought in are given out in the columns they are brought in with', async () => {
  for (const list of ['items', 'tax-codes', 'payers-list'] as const) {
    const rows = await exported(list);
    expect(rows.length).toBeGreaterThan(0);
    expect(Object.keys(rows[0]!)).toEqual([...columnsOf(list === 'payers-list' ? 'payers' : list)]);
  }
});

test('lines of the bank: those to explain with what they may be, those matched with what they are', async () => {
  const open = await exported('lines', { state: 'to-explain' });
  const { count } = (await listLines(books.reader, { state: 'to-explain' }, null)).totals;
  expect(open).toHaveLength(count);
  const matched = await exported('lines', { state: 'matched' });
  expect(matched.length).toBeGreaterThan(5);
  expect(matched.every((row) => row['Explained by'] !== '')).toBe(true);
  const text = matched[0]!.Text!;
  expect((await exported('lines', { state: 'matched', text })).map((row) => row.Text)).toContain(text);
});

test('an account’s register: every line, adding up to its balance; a list that is none is none', async () => {
  const clearing = await books.reader
    .selectFrom('account')
    .select('id')
    .where('code', '=', '1200')
    .executeTakeFirstOrThrow();
  const rows = await exported(`register-${clearing.id}`);
  const balance = (await accountBalances(books.reader)).find(({ code }) => code === '1200')!.balance;
  expect(sum(rows, 'Amount')).toBe(balance);
  const days = rows.map((row) => row.Date!);
  expect(days).toEqual([...days].sort().reverse());
  await expect(exported('everything')).rejects.toThrow('no list everything');
});
