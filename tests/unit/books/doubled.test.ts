import { doubledLines, doubledSheet } from '@/books/doubled/list';
import { denyDoubled, mendDoubled } from '@/books/doubled/mend';
import { closeThrough } from '@/books/ledger/close';
import { reverseReceipts } from '@/books/ledger/reverse';
import { confirmByRules, confirmMatch } from '@/books/matching/confirm';
import { proposeAgain } from '@/books/matching/propose-again';
import { workingSheet } from '@/books/matching/sheet';
import { saveStatementRule } from '@/books/matching/statement-rules';
import { takeApart } from '@/books/matching/take-apart';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { lineRows } from '@/books/statements/list';
import { worklist } from '@/books/today/worklist';
import { railOf } from '@/books/today/rail';
import { plainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { bill, issue, payerNamed } from './bills';
import { DESK_HEAD, statement, useWorld } from './world';
import { bookedTo, payoutRow, receiptRow } from './written-rows';

const world = useWorld();
let income: AccountId;
beforeEach(async () => {
  income = await world.account('4010');
});

const db = () => world.books.reader;
const lineOf = (text: string) => world.id('statement_line', text);
/** Books a deposit to an account by itself, past what explains it. */
const bookTo = async (text: string, amount: number, account = income) =>
  (await world.must(confirmMatch, { line: await lineOf(text), parts: [bookedTo(account, amount)], restTo: null }))
    .match;
const told = async () => (await doubledLines(db(), 20)).map(({ first, parts, amount }) => [first, parts, amount]);
const DESK =
  DESK_HEAD + receiptRow('A', '2026-11-02', 10_000, 215, 'P-1001') + payoutRow('P-1001', '2026-11-02', 9_785);
const CARDS = statement(0, ['2026-11-04', 9_785, 'CARDS P-1001']);

/** A deposit that was booked as income before the receipts behind it came in. */
async function bookedThenReceipts(): Promise<number> {
  await world.bringIn(statementImporter, CARDS);
  await bookTo('CARDS P-1001', 9_785);
  expect(await told()).toEqual([]);
  await world.bringIn(receiptsImporter, DESK);
  await world.must(postReceipts, { filter: {} });
  return lineOf('CARDS P-1001');
}

describe('a payout that was booked as income before its receipts came in', () => {
  test('is named with the deposit, on its sheet, in the list and on Today, where the payout is late no more', async () => {
    const line = await bookedThenReceipts();
    expect(await told()).toEqual([['payout P-1001', 1, 9_785]]);
    const sheet = await workingSheet(db(), line);
    expect(sheet!.confirmed!.doubled).toMatchObject({
      parts: [{ kind: 'payout', title: 'Payout P-1001', net: 9_785 }],
      because: [
        'payout id P-1001 stands in the bank’s text',
        'equal to the cent',
        '2 working days after it left, 2 is usual',
      ],
    });
    expect((await lineRows(db(), { state: 'doubled' }, null, 10)).map(({ id }) => id)).toEqual([line]);
    const work = await worklist(db(), await railOf(db(), new Date('2026-11-16T09:00:00Z')));
    expect(work[0]).toMatchObject({
      risk: 'trouble',
      title: 'A deposit of 4 Nov may count as income twice',
      amount: 9_785,
      age: 12,
      href: `banked?state=doubled&line=${line}`,
    });
    expect(work.some(({ title }) => title.includes('has not reached the bank'))).toBe(false);
  });

  test('is counted once in one change, whose balances are shown before; undone, and mended again', async () => {
    const line = await bookedThenReceipts();
    const twice = await world.balances();
    const dry = await world.run(mendDoubled, { line }, true);
    expect(dry).toMatchObject({ ok: true, value: { amount: 9_785 } });
    const moves = dry.ok ? dry.value.moves.map(({ code, before, after }) => [code, after - before]) : [];
    expect(moves).toEqual([
      ['1200', -9_785],
      ['4010', 9_785],
    ]);
    expect(await world.balances()).toEqual(twice);
    await world.must(mendDoubled, { line });
    const once = await world.balances();
    // 100.00 were sold: income is that again, and no clearing is left.
    expect(twice).toMatchObject({ '1200': 9_785, '4010': -9_785 });
    expect([once['1200'], once['4010']]).toEqual([undefined, undefined]);
    expect(once['1010']).toBe(twice['1010']);
    expect(await told()).toEqual([]);
    // What stands there now is as sure as what was found, and says so.
    expect((await workingSheet(db(), line))!.confirmed).toMatchObject({ certainty: 'proven', doubled: null });
    expect(await world.lastChange()).toBe('Mended 97.85 of 4 Nov: it counts once');
    await world.undoLast();
    expect(await world.balances()).toEqual(twice);
    expect(await told()).toHaveLength(1);
    await world.undoLast();
    expect(await world.balances()).toEqual(once);
  });

  test('is left alone once somebody says that it is other money, until that is taken back or something else explains it', async () => {
    const line = await bookedThenReceipts();
    await world.must(denyDoubled, { line, denied: true });
    expect(await told()).toEqual([]);
    await world.must(proposeAgain, {});
    expect(await told()).toEqual([]);
    expect(await world.refusal(mendDoubled, { line })).toBe('not-found');
    expect(await world.refusal(denyDoubled, { line, denied: true })).toBe('not-found');
    await world.undoLast();
    expect(await told()).toHaveLength(1);
    await world.undoLast();
    expect(await told()).toEqual([]);
  });

  test('that is said to be other money leaves its payout to another deposit, and takes it again', async () => {
    await world.bringIn(
      statementImporter,
      statement(0, ['2026-11-04', 9_785, 'CARDS P-1001'], ['2026-11-04', 9_785, 'TAKINGS']),
    );
    await bookTo('CARDS P-1001', 9_785);
    await bookTo('TAKINGS', 9_785);
    await world.bringIn(receiptsImporter, DESK);
    await world.must(postReceipts, { filter: {} });
    const named = async () => (await lineRows(db(), { state: 'doubled' }, null, 10)).map(({ text }) => text);
    // Both are of its amount; one names it.
    expect(await named()).toEqual(['CARDS P-1001']);
    await world.must(denyDoubled, { line: await lineOf('CARDS P-1001'), denied: true });
    expect(await named()).toEqual(['TAKINGS']);
    await world.undoLast();
    expect(await named()).toEqual(['CARDS P-1001']);
    await world.undoLast();
    await world.must(mendDoubled, { line: await lineOf('TAKINGS') });
    expect(await named()).toEqual([]);
    // What is other money is income; the takings are those of the desk, and nothing is on its way any more.
    const { '4010': other, '1200': clearing } = await world.balances();
    expect([other, clearing]).toEqual([-9_785, undefined]);
  });

  test('is not taken back in a closed period, and nothing of it is half done', async () => {
    const line = await bookedThenReceipts();
    await world.must(closeThrough, { date: plainDate('2026-11-05'), reopen: false });
    const before = await world.balances();
    expect(await world.refusal(mendDoubled, { line })).toBe('period-closed');
    expect(await world.balances()).toEqual(before);
    expect(await told()).toHaveLength(1);
  });

  test('once the payout is banked elsewhere, its receipts are reversed or the booking is taken apart, it is no question', async () => {
    await bookedThenReceipts();
    await world.bringIn(statementImporter, statement(9_785, ['2026-11-05', 9_785, 'CARDS AGAIN']));
    // Another line is to be explained, and the payout is laid there: that one comes first.
    expect((await workingSheet(db(), await lineOf('CARDS AGAIN')))!.parts).toMatchObject([{ title: 'Payout P-1001' }]);
    expect(await told()).toEqual([]);
    await world.must(confirmMatch, {
      line: await lineOf('CARDS AGAIN'),
      parts: [{ kind: 'payout', id: await world.id('payout', 'P-1001') }],
      restTo: null,
    });
    expect(await told()).toEqual([]);
    await world.undoLast();
    const { match } = (await workingSheet(db(), await lineOf('CARDS P-1001')))!.confirmed!;
    await world.must(takeApart, { match });
    expect((await workingSheet(db(), await lineOf('CARDS P-1001')))!.parts).toMatchObject([{ title: 'Payout P-1001' }]);
  });
});

describe('what else may stand behind such a deposit', () => {
  test('an invoice whose number the bank says, booked as the rest of an empty sheet', async () => {
    const anna = await payerNamed(world, 'Anna Berg');
    const { invoice, number } = await issue(world, await bill(world, anna, [10_000]));
    await world.bringIn(statementImporter, statement(0, ['2026-11-16', 12_300, `BERG ${number}`]));
    const line = await lineOf(`BERG ${number}`);
    await world.must(confirmMatch, { line, parts: [], restTo: income });
    expect(await told()).toEqual([[`invoice ${number}`, 1, 12_300]]);
    await world.must(mendDoubled, { line });
    const { paid } = await db()
      .selectFrom('invoice')
      .select('paid')
      .where('id', '=', invoice)
      .executeTakeFirstOrThrow();
    expect(paid).toBe(12_300);
    expect((await world.balances())['1100']).toBeUndefined();
    await world.undoLast();
    expect((await world.balances())['1100']).toBe(12_300);
    expect(await told()).toHaveLength(1);
  });

  test('what a payer still owes beside it, or could pay in part by it, tells nothing', async () => {
    const anna = await payerNamed(world, 'Anna Berg');
    await issue(world, await bill(world, anna, [10_000]));
    await world.bringIn(
      statementImporter,
      statement(0, ['2026-11-16', 5_000, 'ANNA BERG'], ['2026-11-16', 20_000, 'ANNA BERG MORE']),
    );
    await bookTo('ANNA BERG', 5_000);
    await bookTo('ANNA BERG MORE', 20_000);
    expect(await told()).toEqual([]);
  });

  test('a run of receipts, named by its first and how many', async () => {
    const day = (n: number) => `2026-11-${String(n).padStart(2, '0')}`;
    const rows = Array.from(
      { length: 24 },
      (_, n) =>
        `CD-${n},receipt,${day(2 + Math.floor(n / 6))}T1${n % 6}:00:00Z,EUR,${(31.7 + n * 3.11).toFixed(2)},0.25,,,,,,,,\n`,
    );
    await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
    const sums = await db().selectFrom('receipt').select(['book_date', 'gross', 'fee']).execute();
    const of = (date: string) =>
      sums.filter((row) => row.book_date === date).reduce((sum, row) => sum + row.gross - row.fee!, 0);
    await world.must(saveStatementRule, {
      id: null,
      name: 'Cards',
      active: true,
      conditions: { texts: [{ how: 'words', text: 'cards' }] },
      result: { account: income, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
    });
    await world.bringIn(
      statementImporter,
      statement(
        0,
        [day(4), of(day(2)), 'CARDS A'],
        [day(5), of(day(3)), 'CARDS B'],
        [day(6), of(day(4)), 'CARDS C'],
        [day(9), of(day(5)), 'CARDS D'],
      ),
    );
    // Nothing was posted when the rule booked all four.
    await world.must(confirmByRules, {});
    await world.must(postReceipts, { filter: {} });
    expect(await told()).toEqual([
      ['receipt CD-0', 6, of(day(2))],
      ['receipt CD-6', 6, of(day(3))],
      ['receipt CD-12', 6, of(day(4))],
    ]);
    // The last of them is no proof by itself: what comes after it is not known.
    expect((await workingSheet(db(), await lineOf('CARDS D')))!.confirmed!.doubled).toBeNull();
    const twice = await world.balances();
    for (const text of ['CARDS A', 'CARDS B', 'CARDS C']) await world.must(mendDoubled, { line: await lineOf(text) });
    const once = await world.balances();
    const all = [2, 3, 4].map((n) => of(day(n))).reduce((a, b) => a + b, 0);
    expect(once['4010']! - twice['4010']!).toBe(all);
    expect(once['1200']! - twice['1200']!).toBe(-all);
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'CD-0')] });
    expect(await told()).toEqual([]);
  });

  test('money on another account than income, or of another amount or time, counts once', async () => {
    await world.bringIn(
      statementImporter,
      statement(0, ['2026-11-04', 9_785, 'OWNER'], ['2026-11-04', 9_786, 'NEARLY'], ['2026-11-05', 9_000, 'SPLIT']),
    );
    await bookTo('OWNER', 9_785, await world.account('6010'));
    await bookTo('NEARLY', 9_786);
    await world.must(confirmMatch, {
      line: await lineOf('SPLIT'),
      parts: [bookedTo(income, 5_000), bookedTo(await world.account('6010'), 4_000)],
      restTo: null,
    });
    await world.bringIn(
      receiptsImporter,
      DESK + receiptRow('B', '2026-11-03', 9_000, 0, 'P-1002') + payoutRow('P-1002', '2026-11-03', 9_000),
    );
    await world.must(postReceipts, { filter: {} });
    expect(await told()).toEqual([]);
    const line = await db()
      .selectFrom('statement_line')
      .selectAll()
      .where('text', '=', 'NEARLY')
      .executeTakeFirstOrThrow();
    expect(await doubledSheet(db(), line)).toBeNull();
    expect(await world.refusal(mendDoubled, { line: line.id })).toBe('not-found');
  });
});
