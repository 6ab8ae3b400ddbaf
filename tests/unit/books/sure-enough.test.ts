import { confirmMatch, confirmNotOurs, confirmProbable, confirmProven } from '@/books/matching/confirm';
import { workingSheet } from '@/books/matching/sheet';
import { saveStatementRule } from '@/books/matching/statement-rules';
import { twinsOf } from '@/books/matching/twins';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { reverseReceipts } from '@/books/ledger/reverse';
import { undoImport } from '@/books/imports/undo-import';
import { statementImporter } from '@/books/statements/import';
import { certaintyGroups, laidLines, listLines, parseLineCursor } from '@/books/statements/list';
import { deposits } from '@/books/today/bank-work';
import { plainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { KITTIWAKE } from '../../../demo/kittiwake/books';
import { bill, issue, payerNamed } from './bills';
import { DESK_HEAD, statement, useWorld } from './world';
import { payoutRow, receiptRow } from './written-rows';

const world = useWorld();

const db = () => world.books.reader;
const lineOf = (text: string) => world.id('statement_line', text);
const sheetOf = async (text: string) => (await workingSheet(db(), await lineOf(text)))!;
const undo = () => world.undoLast();

describe('what fits equally', () => {
  test('two payouts of one amount: both named, with day and days before', async () => {
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD +
        receiptRow('A', '2026-11-02', 5_000, 0, 'P-1001') +
        payoutRow('P-1001', '2026-11-02', 5_000) +
        receiptRow('B', '2026-11-03', 5_000, 0, 'P-1002') +
        payoutRow('P-1002', '2026-11-03', 5_000),
    );
    await world.bringIn(statementImporter, statement(0, ['2026-11-05', 5_000, 'CARDS']));
    const line = await lineOf('CARDS');
    const [twin, ...none] = await twinsOf(db(), line, [{ kind: 'payout', id: await world.id('payout', 'P-1002') }]);
    expect(none).toEqual([]);
    expect([twin!.part.title, twin!.tells]).toEqual(['Payout P-1002', 'of 3 Nov, 2 working days before']);
    expect(twin!.others.map(({ part, tells }) => [part.title, tells])).toEqual([
      ['Payout P-1001', 'of 2 Nov, 3 working days before'],
    ]);
    expect(twin!.more).toBe(0);
  });

  test('invoices of one payer, receipts of one channel; not of another payer, nor of another amount', async () => {
    const [anna, ben] = [await payerNamed(world, 'Anna Berg'), await payerNamed(world, 'Ben Dahl')];
    const [one, two] = [
      await issue(world, await bill(world, anna, [10_000])),
      await issue(world, await bill(world, anna, [10_000])),
    ].map(({ invoice }) => invoice);
    await issue(world, await bill(world, ben, [10_000]));
    await issue(world, await bill(world, anna, [20_000]));
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD +
        receiptRow('R-1', '2026-11-02', 700) +
        receiptRow('R-2', '2026-11-03', 700) +
        receiptRow('R-3', '2026-11-03', 701),
    );
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(statementImporter, statement(0, ['2026-11-16', 12_300, 'BERG']));
    const line = await lineOf('BERG');
    const invoice = await twinsOf(db(), line, [{ kind: 'invoice', id: one!, amount: 12_300 as never }]);
    expect(invoice[0]!.others.map(({ part }) => part.id)).toEqual([two]);
    const laid = await twinsOf(db(), line, [{ kind: 'receipt', id: await world.id('receipt', 'R-1') }]);
    expect(laid[0]!.others.map(({ part }) => part.title)).toEqual(['Receipt R-2']);
    // Both laid: nothing is left that could stand in the place of either.
    expect(
      await twinsOf(db(), line, [
        { kind: 'receipt', id: await world.id('receipt', 'R-1') },
        { kind: 'receipt', id: await world.id('receipt', 'R-2') },
      ]),
    ).toEqual([]);
  });
});

describe('a deposit that is not due yet', () => {
  test('is of a channel by its name, which is not known so far; once it is, it is explained', async () => {
    const name = KITTIWAKE.channels[0]!.name;
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD + receiptRow('A', '2026-11-02', 5_000, 0, 'P-1001') + payoutRow('P-1001', '2026-11-02', 5_000),
    );
    await world.bringIn(
      statementImporter,
      statement(
        0,
        ['2026-11-04', 5_000, `${name} P-1001`],
        ['2026-11-11', 7_000, `${name} SETTLEMENT`],
        ['2026-11-11', 7_100, 'SOMEBODY'],
      ),
    );
    const sheet = await sheetOf(`${name} SETTLEMENT`);
    expect([sheet.certainty, sheet.because]).toEqual([
      'not-due',
      [`it is of ${name}, which is known up to 2 Nov: bring in what came after`],
    ]);
    expect((await sheetOf('SOMEBODY')).certainty).toBe('none');
    expect(await certaintyGroups(db())).toMatchObject({
      proven: { count: 1 },
      none: { count: 1 },
      'not-due': { count: 1, amount: 7_000 },
    });
    const { rows } = await listLines(db(), { state: 'to-explain' }, null);
    expect(rows.map(({ certainty }) => certainty)).toEqual(['proven', 'none', 'not-due']);
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD + receiptRow('B', '2026-11-09', 7_000, 0, 'P-1002') + payoutRow('P-1002', '2026-11-09', 7_000),
    );
    expect((await sheetOf(`${name} SETTLEMENT`)).certainty).toBe('proven');
  });

  test('by the wording of what was confirmed of it before', async () => {
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD + receiptRow('A', '2026-11-02', 5_000, 0, 'P-1001') + payoutRow('P-1001', '2026-11-02', 5_000),
    );
    await world.bringIn(
      statementImporter,
      statement(0, ['2026-11-04', 5_000, 'SETTLEMT 0007 P-1001'], ['2026-11-11', 7_000, 'SETTLEMT 0008']),
    );
    expect((await sheetOf('SETTLEMT 0008')).certainty).toBe('none');
    await world.must(confirmMatch, {
      line: await lineOf('SETTLEMT 0007 P-1001'),
      parts: [{ kind: 'payout', id: await world.id('payout', 'P-1001') }],
      restTo: null,
    });
    // What is confirmed teaches its wording; whoever comes next is asked by it.
    await world.bringIn(statementImporter, statement(0, ['2026-11-12', 7_100, 'SETTLEMT 0009 P-1009']));
    expect((await sheetOf('SETTLEMT 0009 P-1009')).certainty).toBe('not-due');
    expect((await sheetOf('SETTLEMT 0008')).certainty).toBe('not-due');
  });
});

test('a rule does not take what its channel explains later, and says that it would count twice', async () => {
  const name = KITTIWAKE.channels[0]!.name;
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + receiptRow('A', '2026-11-02', 5_000, 0, 'P-1001') + payoutRow('P-1001', '2026-11-02', 5_000),
  );
  const rule = {
    id: null,
    name: 'Cards',
    active: true,
    conditions: { texts: [{ how: 'words' as const, text: name }] },
    result: { account: await world.account('4010'), dimensions: {}, taxCode: null, payer: null, byNumber: [] },
  };
  await world.must(saveStatementRule, rule);
  await world.bringIn(statementImporter, statement(0, ['2026-11-11', 7_000, `${name} SETTLEMENT`]));
  const sheet = await sheetOf(`${name} SETTLEMENT`);
  expect([sheet.certainty, sheet.parts]).toEqual(['not-due', []]);
  expect(sheet.because[1]).toBe(
    'rule “Cards” would book it as income; with the receipts of its channel it would count twice',
  );
});

describe('a match whose payout changed meanwhile', () => {
  beforeEach(async () => {
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD + receiptRow('A', '2026-11-02', 5_000, 0, 'P-1001') + payoutRow('P-1001', '2026-11-02', 5_000),
    );
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(statementImporter, statement(0, ['2026-11-04', 5_000, 'CARDS P-1001']));
  });

  test('its receipts reversed: the sheet says they are not posted, and clearing does not prove until they are', async () => {
    const before = await sheetOf('CARDS P-1001');
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'A')] });
    expect((await sheetOf('CARDS P-1001')).parts[0]!.note).toBe('1 receipt, 1 of them not posted yet');
    await world.must(confirmMatch, {
      line: before.line.id,
      parts: [{ kind: 'payout', id: before.parts[0]!.id }],
      restTo: null,
    });
    expect((await world.balances())['1200']).toBe(-5_000);
    await world.must(postReceipts, { filter: {} });
    expect((await world.balances())['1200']).toBeUndefined();
  });

  test('its file taken back: what was seen on the sheet is refused by name, and the line asks for something else', async () => {
    const before = await sheetOf('CARDS P-1001');
    await world.must(reverseReceipts, { ids: [await world.id('receipt', 'A')] });
    const asked = await world.run(undoImport, { run: 1 });
    // What was ever posted stays in the books; so the payout cannot go from under its match.
    expect(asked).toMatchObject({ ok: false, refusal: { code: 'import-rested-on' } });
    const gone = { line: before.line.id, parts: [{ kind: 'payout' as const, id: 999 }], restTo: null };
    expect(await world.run(confirmMatch, gone)).toMatchObject({
      ok: false,
      refusal: { code: 'not-found', what: 'payout' },
    });
  });
});

describe('lines that a rule books, together', () => {
  const byRule = (name: string, text: string, account: AccountId) =>
    world.must(saveStatementRule, {
      id: null,
      name,
      active: true,
      conditions: { texts: [{ how: 'words', text }] },
      result: { account, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
    });

  test.each([
    ['not-ours', '6010', 'Workshop rent', confirmNotOurs, '2 lines not ours'],
    ['probable', '4010', 'Repairs', confirmProbable, '2 probable lines'],
  ] as const)(
    'stand as %s where it books to %s; listed with why, confirmed as they are laid, and undone',
    async (certainty, code, name, confirm, words) => {
      const account = await world.account(code);
      await byRule('Hall', 'hall', account);
      await world.bringIn(
        statementImporter,
        statement(0, ['2026-11-02', -85_000, 'HALL A'], ['2026-11-03', -700, 'HALL B'], ['2026-11-04', -5, 'OTHER']),
      );
      const lines = await laidLines(db(), certainty, 10);
      expect(lines.map(({ text, laid, because }) => [text, laid, because])).toEqual([
        ['HALL B', `Booked to ${name}`, ['statement rule “Hall”']],
        ['HALL A', `Booked to ${name}`, ['statement rule “Hall”']],
      ]);
      const before = await world.balances();
      const ids = lines.map(({ id }) => id);
      expect(await world.refusal(confirm, { lines: [...ids, await lineOf('OTHER')] })).toBe('not-proven');
      expect(await world.refusal(confirmProven, { lines: ids })).toBe('not-proven');
      // What is searched for is counted and summed by itself.
      const nothing = { count: 0, amount: 0 };
      expect(await certaintyGroups(db(), 'hall b')).toMatchObject({
        proven: nothing,
        probable: nothing,
        open: nothing,
        none: nothing,
        'not-due': nothing,
        'not-ours': nothing,
        [certainty]: { count: 1, amount: -700 },
      });
      expect(await world.must(confirm, { lines: ids })).toEqual({ confirmed: 2, amount: -85_700 });
      expect(await world.lastChange()).toContain(words);
      expect(await world.refusal(confirm, { lines: ids })).toBe('not-proven');
      await undo();
      expect(await world.balances()).toEqual(before);
      expect((await certaintyGroups(db()))[certainty].count).toBe(2);
    },
  );

  test('what is not ours stands last in the list, page by page, and waits on Today by itself', async () => {
    await byRule('Rent', 'rent', await world.account('6010'));
    const rents = Array.from({ length: 60 }, (_, n) => ['2026-11-03', -100 - n, `RENT ${n}`] as const);
    await world.bringIn(statementImporter, statement(0, ['2026-11-02', -5, 'OTHER'], ...rents));
    const filter = { state: 'to-explain' } as const;
    const first = await listLines(db(), filter, null);
    expect(first.rows[0]).toMatchObject({ text: 'OTHER', certainty: 'none' });
    expect(first.rows.slice(1).every(({ certainty }) => certainty === 'not-ours')).toBe(true);
    expect(first.next).toMatch(/^not-ours_2026-11-03_\d+$/);
    const second = await listLines(db(), filter, parseLineCursor(first.next!));
    expect(new Set([...first.rows, ...second.rows].map(({ id }) => id)).size).toBe(61);
    expect(second.next).toBeNull();
    const work = await deposits(db(), plainDate('2026-11-16'));
    expect(work.map(({ title, amount }) => [title, amount])).toEqual([
      ['1 statement line needs a decision', -5],
      ['60 statement lines by your rules wait to be booked', -7770],
    ]);
  });
});
