import { accountBalances } from '@/books/ledger/balances';
import { closeThrough } from '@/books/ledger/close';
import { reverseReceipts } from '@/books/ledger/reverse';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { setMapDefault } from '@/books/map/defaults';
import { repostReceipts } from '@/books/map/repost';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { setPayer } from '@/books/payers/payers';
import { mergePayers } from '@/books/payers/same';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { setAside, takeBackAside } from '@/books/receipts/set-aside';
import { statementImporter } from '@/books/statements/import';
import { provenLines } from '@/books/statements/list';
import { undoChange } from '@/books/undo';
import { plainDate } from '@/core/calendar';
import { payerNamed } from './bills';
import { DESK_HEAD, FIGURE_A, INVOICE_HEAD, statement, useWorld } from './world';

const world = useWorld();

const db = () => world.books.reader;
const sale = (id: string, day: string, gross: number, more = ',,,,,') =>
  `${id},receipt,${day}T10:00:00Z,EUR,${(gross / 100).toFixed(2)},0.00,${(gross / 100).toFixed(2)}${more},,\n`;
const sales = async (...rows: string[]) => {
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  await world.must(postReceipts, { filter: {} });
};
const asOf = async (day: string) =>
  Object.fromEntries(
    (await accountBalances(db(), plainDate(day))).filter((a) => a.balance !== 0).map((a) => [a.code, a.balance]),
  );
const lastDays = async (count: number) =>
  (await db().selectFrom('journal').select('book_date as day').orderBy('id', 'desc').limit(count).execute()).map(
    ({ day }) => day,
  );

describe('what was taken out of a closed month is put back after it', () => {
  beforeEach(async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.must(postInvoices, { filter: {} });
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(statementImporter, FIGURE_A.statement);
    await world.must(confirmProven, { lines: (await provenLines(db())).map(({ id }) => id) });
    await world.must(closeThrough, { date: plainDate('2026-11-12'), reopen: false });
  });

  test('a match: the closed month keeps its figures, and both entries are of the first day after it', async () => {
    const [closed, now] = [await asOf('2026-11-12'), await world.balances()];
    const [{ id }] = (await db().selectFrom('match').select('id').execute()) as [{ id: number }];
    await world.must(takeApart, { match: id });
    expect(await asOf('2026-11-12')).toEqual(closed);
    expect(await world.balances()).not.toEqual(now);
    await world.undoLast('take-apart');
    expect(await world.balances()).toEqual(now);
    expect(await asOf('2026-11-12')).toEqual(closed);
    expect(await lastDays(2)).toEqual(['2026-11-13', '2026-11-13']);
    // Laid by hand it would be of the closed day, and is refused.
    await world.must(takeApart, { match: id });
    const line = await world.id('statement_line', 'CD SETTLEMENT');
    const payout = { kind: 'payout' as const, id: await world.id('payout', 'P-1') };
    expect(await world.refusal(confirmMatch, { line, parts: [payout], restTo: null })).toBe('period-closed');
  });

  test('a receipt: reversed after the month, posted again after it, with what it paid', async () => {
    const [closed, now] = [await asOf('2026-11-12'), await world.balances()];
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'CD-1')] });
    const invoice = async () => (await db().selectFrom('invoice').select('paid').executeTakeFirstOrThrow()).paid;
    expect(await invoice()).toBe(0);
    await world.undoLast('reverse-receipts');
    expect(await invoice()).toBe(14_760);
    expect(await world.balances()).toEqual(now);
    expect(await asOf('2026-11-12')).toEqual(closed);
    expect(await lastDays(2)).toEqual(['2026-11-13', '2026-11-13']);
  });
});

describe('a reversal that is taken back', () => {
  test('posts as it was, though the map says otherwise by now', async () => {
    await sales(sale('A', '2026-11-05', 12_300), sale('B', '2026-11-06', 6_150));
    const before = await world.balances();
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'A')] });
    await world.must(setMapDefault, { layer: 'channel', ref: 1, field: 'income', value: await world.account('4030') });
    await world.undoLast('reverse-receipts');
    expect(await world.balances()).toEqual(before);
    // Posted by hand it goes by the map.
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'A')] });
    await world.must(postReceipts, { filter: {} });
    expect((await world.balances())['4030']).toBe(-10_000);
  });

  test('posts by what is open now, where somebody else paid the invoice meanwhile', async () => {
    await world.bringIn(
      invoicesImporter,
      `${INVOICE_HEAD}KS-7,A. Tern,,2026-10-01,2026-11-01,EUR,repair,100.00,S23,\n`,
    );
    await world.must(postInvoices, { filter: {} });
    await sales(sale('A', '2026-11-05', 12_300, ',A. Tern,,KS-7,,'));
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'A')] });
    await world.bringIn(receiptsImporter, DESK_HEAD + sale('B', '2026-11-06', 12_300, ',A. Tern,,KS-7,,'));
    await world.must(postReceipts, { ids: [await world.id('receipt', 'B')] });
    // B stands with the invoice, so what A paid is kept for the payer and the invoice is not paid twice.
    await world.undoLast('reverse-receipts');
    const invoice = await db().selectFrom('invoice').select(['paid', 'gross']).executeTakeFirstOrThrow();
    expect(invoice).toEqual({ paid: 12_300, gross: 12_300 });
    expect(await world.balances()).toMatchObject({ '2200': -12_300 });
  });

  test('of receipts that are set aside or changed since posts none of them as they were', async () => {
    await sales(sale('A', '2026-11-05', 12_300));
    const id = await world.id('receipt', 'A');
    await world.must(reverseReceipts, { ids: [id] });
    await world.must(setAside, { ids: [id], reason: 'a test' });
    const audit = await world.lastAudit('reverse-receipts');
    const answer = await world.run(undoChange, { audit });
    expect(answer.ok).toBe(false);
    await world.must(takeBackAside, { ids: [id] });
    await world.must(setPayer, { receipt: id, payer: await payerNamed(world, 'Ben Dahl') } as never);
    await world.must(undoChange, { audit });
    expect(
      await db().selectFrom('receipt').select('journal_id').where('id', '=', id).executeTakeFirstOrThrow(),
    ).not.toEqual({ journal_id: null });
  });

  test('a posting is taken back whole, also where a receipt was posted by the map since', async () => {
    const empty = await world.balances();
    await sales(sale('A', '2026-11-05', 12_300), sale('B', '2026-11-06', 6_150));
    await world.must(setMapDefault, { layer: 'channel', ref: 1, field: 'income', value: await world.account('4030') });
    await world.must(repostReceipts, { ids: [await world.id('receipt', 'A')] });
    await world.undoLast('post-receipts');
    expect(await world.balances()).toEqual(empty);
  });
});

test('receipts that were set aside for different reasons get each its own back', async () => {
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + sale('A', '2026-11-05', 100) + sale('B', '2026-11-06', 200) + sale('C', '2026-11-07', 300),
  );
  const [a, b, c] = [await world.id('receipt', 'A'), await world.id('receipt', 'B'), await world.id('receipt', 'C')];
  const reasons = async () =>
    (await db().selectFrom('receipt').select('aside').orderBy('id').execute()).map(({ aside }) => aside);
  await world.must(setAside, { ids: [a], reason: 'a test run' });
  await world.must(setAside, { ids: [a, b], reason: 'of the other till' });
  expect(await reasons()).toEqual(['a test run', 'of the other till', null]);
  // What was aside before stays so when the second is taken back.
  await world.undoLast();
  expect(await reasons()).toEqual(['a test run', null, null]);
  await world.undoLast();
  await world.must(takeBackAside, { ids: [a, b, c] });
  expect(await reasons()).toEqual([null, null, null]);
  await world.undoLast();
  expect(await reasons()).toEqual(['a test run', 'of the other till', null]);
  await world.undoLast();
  expect(await reasons()).toEqual([null, null, null]);
});

test('a name that becomes a payer’s by merging tells deposits at once', async () => {
  await world.bringIn(invoicesImporter, `${INVOICE_HEAD}KS-7,A. Tern,,2026-10-01,2026-11-01,EUR,repair,100.00,S23,\n`);
  await world.must(postInvoices, { filter: {} });
  await world.bringIn(statementImporter, statement(0, ['2026-11-05', 12_300, 'QUAYSIDE RIGGERS']));
  const certainty = async () =>
    (await workingSheet(db(), await world.id('statement_line', 'QUAYSIDE RIGGERS')))!.certainty;
  expect(await certainty()).toBe('open');
  const from = await payerNamed(world, 'Quayside Riggers');
  const { id: into } = await db()
    .selectFrom('payer')
    .select('id')
    .where('name', '=', 'A. Tern')
    .executeTakeFirstOrThrow();
  await world.must(mergePayers, { from, into });
  expect(await certainty()).toBe('probable');
  await world.undoLast();
  expect(await certainty()).toBe('open');
});
