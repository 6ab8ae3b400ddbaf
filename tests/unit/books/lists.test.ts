import { invoicesImporter } from '@/books/invoices/import';
import { invoiceRows, listInvoices } from '@/books/invoices/list';
import { postInvoices } from '@/books/invoices/post';
import { cursorParam } from '@/books/lists/page';
import { exportCsv } from '@/books/lists/export';
import { listPayouts, payoutDetail, expectedArrivals } from '@/books/payouts/list';
import { receiptsImporter } from '@/books/receipts/import';
import { listReceipts } from '@/books/receipts/list';
import { postReceipts } from '@/books/receipts/post';
import { listLines, parseLineCursor, provenLines } from '@/books/statements/list';
import { statementImporter } from '@/books/statements/import';
import { plainDate } from '@/core/calendar';
import { DESK_HEAD, INVOICE_HEAD, statement, World } from './world';

const TODAY = plainDate('2026-11-16');
let world: World;

const day = (n: number) => String((n % 12) + 1).padStart(2, '0');

beforeAll(async () => {
  world = await World.open();
  const invoice = (n: number) =>
    `L-${n},Payer ${n % 7},,2026-10-${day(n)},2026-11-${day(n)},EUR,repair,${n + 1}.00,S23,\n`;
  await world.bringIn(invoicesImporter, INVOICE_HEAD + Array.from({ length: 130 }, (_, n) => invoice(n)).join(''));
  await world.must(postInvoices, { ids: Array.from({ length: 100 }, (_, n) => n + 1) });
  const receipt = (n: number) =>
    `R-${n},receipt,2026-11-${day(n)}T10:00:00Z,EUR,${n + 1}.23,0.25,,Payer ${n % 7},,${n < 20 ? `L-${n}` : ''},,${n === 50 ? '100%_sure' : ''},${n < 120 ? `P-${n % 60}` : ''},\n`;
  const payout = (n: number) =>
    `P-${n},payout,2026-11-13T05:00:00Z,EUR,-${(2 * n + 62 + 0.46 - 0.5).toFixed(2)},,,,,,,,,\n`;
  const rows = [
    ...Array.from({ length: 140 }, (_, n) => receipt(n)),
    ...Array.from({ length: 60 }, (_, n) => payout(n)),
  ];
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  await world.must(postReceipts, { filter: { to: plainDate('2026-11-08') } });
  const lines = Array.from(
    { length: 120 },
    (_, n) => [`2026-11-${day(n)}`, (n % 3 === 0 ? -1 : 1) * (n + 7) * 100, `LINE ${n}`] as const,
  );
  await world.bringIn(statementImporter, statement(0, ...lines, ['2026-11-16', 6196, 'CD REF P-0']));
});
afterAll(() => world.close());

/** Walks a list to its end; gives the ids in order and the totals it told on the way. */
async function walk<T extends { readonly count: number }>(
  fetch: (after: string | undefined) => Promise<{ rows: readonly { id: number }[]; next: string | null; totals: T }>,
): Promise<{ ids: number[]; totals: T }> {
  const ids: number[] = [];
  for (let after: string | undefined; ;) {
    const page = await fetch(after);
    ids.push(...page.rows.map((row) => row.id));
    if (page.next === null) return { ids, totals: page.totals };
    expect(page.rows).toHaveLength(50);
    after = page.next;
  }
}

const all = (table: 'receipt' | 'invoice' | 'payout' | 'statement_line') =>
  world.books.reader.selectFrom(table).select('id').execute();

describe('page by page every row comes once, and the totals are those of all', () => {
  test('receipts', async () => {
    const { ids, totals } = await walk((after) => listReceipts(world.books.reader, {}, cursorParam.parse(after)));
    expect([...ids].sort((a, b) => a - b)).toEqual((await all('receipt')).map((r) => r.id));
    expect(totals).toEqual({ count: 140, gross: 140 * 23 + (100 * 140 * 141) / 2, fee: 140 * 25, others: [] });
  });
  test('invoices', async () => {
    const { ids, totals } = await walk((after) =>
      listInvoices(world.books.reader, {}, TODAY, cursorParam.parse(after)),
    );
    expect(new Set(ids).size).toBe(130);
    const rows = await invoiceRows(world.books.reader, {}, TODAY, null, 1000);
    expect(totals).toEqual({
      count: 130,
      gross: rows.reduce((t, r) => t + r.gross, 0),
      open: rows.reduce((t, r) => t + r.open, 0),
    });
  });
  test('payouts', async () => {
    const { ids, totals } = await walk((after) => listPayouts(world.books.reader, {}, TODAY, cursorParam.parse(after)));
    expect([ids.length, new Set(ids).size, totals.count]).toEqual([60, 60, 60]);
  });
  test.each(['to-explain', 'all'] as const)('statement lines, %s', async (state) => {
    const { ids, totals } = await walk((after) => listLines(world.books.reader, { state }, parseLineCursor(after)));
    expect([ids.length, new Set(ids).size, totals.count]).toEqual([121, 121, 121]);
    expect(totals.amount).toBe(
      6196 + Array.from({ length: 120 }, (_, n) => (n % 3 === 0 ? -1 : 1) * (n + 7) * 100).reduce((a, b) => a + b),
    );
  });
});

test('what is surest comes first', async () => {
  const { rows } = await listLines(world.books.reader, { state: 'to-explain' }, null);
  const order = ['proven', 'probable', 'open', 'none'];
  const ranks = rows.map((row) => order.indexOf(row.certainty!));
  expect(ranks).toEqual([...ranks].sort((a, b) => a - b));
  expect((await provenLines(world.books.reader)).length).toBe(rows.filter((row) => row.certainty === 'proven').length);
});

describe('filters', () => {
  const names = async (filter: Parameters<typeof listReceipts>[1]) =>
    (await listReceipts(world.books.reader, filter, null)).rows.map((row) => row.name);
  test('a text is looked for as it stands, its signs are no wildcards', async () => {
    expect(await names({ text: '100%_sure' })).toEqual(['R-50']);
    expect(await names({ text: '%' })).toEqual(['R-50']);
    expect(await names({ text: "x'; DROP TABLE receipt" })).toEqual([]);
  });
  test('states part the whole', async () => {
    const count = async (state: 'posted' | 'not-posted') =>
      (await listReceipts(world.books.reader, { state }, null)).totals.count;
    expect((await count('posted')) + (await count('not-posted'))).toBe(140);
    const { rows } = await listReceipts(world.books.reader, { state: 'not-posted' }, null);
    expect(rows.every((row) => row.journal === null)).toBe(true);
  });
  test('invoices: paid, open and overdue follow what was settled and the day', async () => {
    const of = async (state: 'paid' | 'open' | 'overdue' | 'not-posted') =>
      (await listInvoices(world.books.reader, { state }, TODAY, null)).totals;
    expect((await of('not-posted')).count).toBe(30);
    expect((await of('paid')).open).toBe(0);
    expect((await of('paid')).count + (await of('open')).count).toBe(100);
    expect((await of('overdue')).count).toBeLessThanOrEqual((await of('open')).count);
  });
  test('a cursor that makes no sense is the first page', () => {
    for (const text of ['', 'x', '2026-99-99_1', '2026-11-09_-1', '2026-11-09'])
      expect(cursorParam.parse(text)).toBeNull();
    expect(parseLineCursor('proven_2026-11-09_4')).toEqual({ certainty: 'proven', date: '2026-11-09', id: 4 });
  });
});

test('a payout’s detail adds its receipts up, and what is expected adds the payouts up', async () => {
  const detail = (await payoutDetail(world.books.reader, await world.id('payout', 'P-3')))!;
  expect(detail.contents.map((r) => r.name)).toEqual(['R-3', 'R-63']);
  expect(detail.contents.reduce((t, r) => t + r.gross, 0)).toBe(detail.gross);
  expect(detail.difference).toBe(detail.gross - detail.fee - detail.net);
  expect(await payoutDetail(world.books.reader, 999)).toBeNull();
  const seen = await listPayouts(world.books.reader, { state: 'seen' }, TODAY, null);
  const expected = await expectedArrivals(world.books.reader);
  expect(expected.reduce((t, d) => t + d.count, 0)).toBe(60 - seen.totals.count);
});

describe('exports', () => {
  const fileBytes = () => {
    throw new Error('no list here has a file behind it');
  };
  async function rows(list: string, search: Record<string, string> = {}): Promise<string[]> {
    const lines = exportCsv(list, { books: world.books, currency: 'EUR', today: TODAY, search, fileBytes });
    if (lines === null) throw new Error(`no list ${list}`);
    let text = '';
    for await (const part of lines) text += part;
    return text.trim().split('\r\n');
  }
  test('have every row of what is shown and one head', async () => {
    expect(await rows('receipts')).toHaveLength(141);
    expect(await rows('receipts', { state: 'not-posted' })).toHaveLength(
      1 + (await listReceipts(world.books.reader, { state: 'not-posted' }, null)).totals.count,
    );
    expect(await rows('invoices')).toHaveLength(131);
    expect(await rows('payouts')).toHaveLength(61);
    expect(await rows('lines', { state: 'all' })).toHaveLength(122);
    expect((await rows('trial-balance'))[0]).toBe('Code,Account,Class,Debits,Credits,Balance');
    const clearing = await world.account('1200');
    const register = await rows(`register-${clearing}`);
    const total = register.slice(1).reduce((t, line) => t + Math.round(Number(line.split(',').at(-1)) * 100), 0);
    expect(total).toBe((await world.balances())['1200']);
  });
  test('a list that is none is none', () => {
    expect(
      exportCsv('secrets', { books: world.books, currency: 'EUR', today: TODAY, search: {}, fileBytes }),
    ).toBeNull();
  });
});
