import { confirmByRules, confirmMatch } from '@/books/matching/confirm';
import { workingSheet } from '@/books/matching/sheet';
import {
  listStatementRules,
  moveStatementRule,
  removeStatementRule,
  saveStatementRule,
  tryStatementRule,
} from '@/books/matching/statement-rules';
import type { StatementRuleInput } from '@/books/matching/rule-input';
import { takeApart } from '@/books/matching/take-apart';
import { postReceipts } from '@/books/receipts/post';
import { receiptsImporter } from '@/books/receipts/import';
import { statementImporter } from '@/books/statements/import';
import { setLinesAside, takeLinesBack } from '@/books/statements/set-aside';
import { bankProofs } from '@/books/proof/clearing';
import { addDimension, requireDimension } from '@/books/dimensions/dimensions';
import type { AccountId } from '@/core/ledger';
import { DESK_HEAD, statement, useWorld } from './world';
import { bookedTo, payoutRow } from './written-rows';

const world = useWorld();
let rent: AccountId;
let income: AccountId;
beforeEach(async () => {
  rent = await world.account('6010');
  income = await world.account('4010');
});

const rule = (
  name: string,
  text: string,
  account: AccountId,
  more: Partial<StatementRuleInput> = {},
): StatementRuleInput => ({
  id: null,
  name,
  active: true,
  conditions: { texts: [{ how: 'words', text }] },
  result: { account, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
  ...more,
});
const sheetOf = async (text: string) =>
  (await workingSheet(world.books.reader, await world.id('statement_line', text)))!;
const taxCode = async (code: string) =>
  (await world.books.reader.selectFrom('tax_code').select('id').where('code', '=', code).executeTakeFirstOrThrow()).id;
const undo = () => world.undoLast();

test('a rule lays what it says on lines in and out, is booked in one go, and taken apart again', async () => {
  await world.bringIn(
    statementImporter,
    statement(0, ['2026-11-02', -85000, 'SO WORKSHOP RENT'], ['2026-11-03', 12300, 'HALL HIRE SMITH']),
  );
  const before = await world.balances();
  await world.must(saveStatementRule, rule('Rent', 'workshop rent', rent));
  await world.must(
    saveStatementRule,
    rule('Hire', 'hall hire', income, {
      result: { account: income, dimensions: {}, taxCode: await taxCode('S23'), payer: null, byNumber: [] },
    }),
  );
  const sheet = await sheetOf('SO WORKSHOP RENT');
  expect(sheet).toMatchObject({
    certainty: 'not-ours',
    because: ['statement rule “Rent”'],
    parts: [{ kind: 'account', net: -85000 }],
  });
  expect((await listStatementRules(world.books.reader)).map(({ name, waiting }) => [name, waiting])).toEqual([
    ['Rent', 1],
    ['Hire', 1],
  ]);
  expect(await world.must(confirmByRules, {})).toEqual({ confirmed: 2, amount: -72700 });
  const after = await world.balances();
  // Recipe 20: 123.00 in the bank is income of 100.00 and 23.00 of tax.
  const moved = Object.fromEntries(
    Object.keys({ ...before, ...after }).flatMap((code) =>
      (after[code] ?? 0) - (before[code] ?? 0) === 0 ? [] : [[code, (after[code] ?? 0) - (before[code] ?? 0)]],
    ),
  );
  expect(moved).toEqual({ '1010': -72700, '2100': -2300, '4010': -10000, '6010': 85000 });
  await undo();
  expect(await world.balances()).toEqual(before);
  expect((await sheetOf('SO WORKSHOP RENT')).certainty).toBe('not-ours');
  expect((await sheetOf('HALL HIRE SMITH')).certainty).toBe('probable');
  await undo();
  expect(await world.balances()).toEqual(after);
});

test('two rules that say otherwise are shown, the first in order is laid; moved, removed and undone', async () => {
  await world.bringIn(statementImporter, statement(0, ['2026-11-02', -85000, 'WORKSHOP RENT BERTH 12']));
  await world.must(saveStatementRule, rule('Rent', 'rent', rent));
  const { rule: berth } = await world.must(saveStatementRule, rule('Berth', 'berth 12', income));
  const because = async () => (await sheetOf('WORKSHOP RENT BERTH 12')).because;
  expect(await because()).toEqual(['statement rule “Rent”', 'rule “Rent” comes first; “Berth” would say otherwise']);
  expect((await sheetOf('WORKSHOP RENT BERTH 12')).certainty).toBe('open');
  expect(await world.refusal(confirmByRules, {})).toBe('not-proven');
  await world.must(moveStatementRule, { id: berth, position: 1 });
  expect((await because())[0]).toBe('statement rule “Berth”');
  await undo();
  expect((await because())[0]).toBe('statement rule “Rent”');
  await world.must(removeStatementRule, { id: berth });
  expect(await because()).toEqual(['statement rule “Rent”']);
  await undo();
  expect(await because()).toHaveLength(2);
});

test('money that receipts explain is never taken by a rule, and says that it would count twice', async () => {
  const day = (n: number) => `2026-11-${String(n).padStart(2, '0')}`;
  const rows = Array.from(
    { length: 24 },
    (_, n) =>
      `CD-${n},receipt,${day(2 + Math.floor(n / 6))}T1${n % 6}:00:00Z,EUR,${(31.7 + n * 3.11).toFixed(2)},0.25,,,,,,,,\n`,
  );
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  await world.must(postReceipts, { filter: {} });
  const { rows: sums } = {
    rows: await world.books.reader.selectFrom('receipt').select(['book_date', 'gross', 'fee']).execute(),
  };
  const of = (date: string) =>
    sums.filter((row) => row.book_date === date).reduce((sum, row) => sum + row.gross - row.fee!, 0);
  await world.must(saveStatementRule, rule('Cards', 'cards', income));
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
  const sheet = await sheetOf('CARDS B');
  expect(sheet.certainty).toBe('probable');
  expect(sheet.parts.map(({ kind }) => kind)).toEqual(new Array(6).fill('receipt'));
  expect(sheet.because.at(-1)).toContain('it would count twice'.replace('it would', 'would'));
  const tried = await world.books.read((db) =>
    tryStatementRule(db, {
      id: null,
      name: 'x',
      conditions: { texts: [{ how: 'words', text: 'cards' }] },
      result: { account: rent, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
    }),
  );
  expect(tried).toMatchObject({ count: 4, explained: 4, collisions: 4 });
});

test('tried on the past: what it would take, what was booked otherwise, and nothing changes', async () => {
  await world.bringIn(
    statementImporter,
    statement(0, ['2026-11-02', -85000, 'SO WORKSHOP RENT'], ['2026-11-03', -100, 'RENT EXTRA']),
  );
  const line = await world.id('statement_line', 'SO WORKSHOP RENT');
  await world.must(confirmMatch, {
    line,
    parts: [bookedTo(rent, -80000)],
    restTo: income,
  });
  const tried = await world.books.read((db) =>
    tryStatementRule(db, {
      id: null,
      name: 'x',
      conditions: { texts: [{ how: 'contains', text: 'rent' }], sign: 'out' },
      result: { account: rent, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
    }),
  );
  expect(tried).toMatchObject({ count: 2, amount: -85100, collisions: 0, explained: 0 });
  expect(tried.lines.map(({ text, matched }) => [text, matched])).toEqual([
    ['RENT EXTRA', null],
    ['SO WORKSHOP RENT', '6010 Workshop rent'],
  ]);
});

test('a rule that asks for nothing, or books where documents are kept, or lacks what an account asks for, is refused', async () => {
  expect(await world.refusal(saveStatementRule, rule('All', 'x', rent, { conditions: { texts: [] } }))).toBe(
    'invalid-input',
  );
  expect(await world.refusal(saveStatementRule, rule('Owed', 'x', await world.account('1100')))).toBe('rest-account');
  expect(await world.refusal(saveStatementRule, rule('Gone', 'x', 999 as AccountId))).toBe('not-found');
  expect(await world.refusal(saveStatementRule, { ...rule('Changed', 'x', rent), id: 77 })).toBe('not-found');
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier'] });
  await world.must(requireDimension, { account: rent, dimension, required: true } as never);
  expect(await world.refusal(saveStatementRule, rule('Rent', 'rent', rent))).toBe('dimension-asked');
});

test('a line is split over accounts under dimensions, and confirmed again as it was after it was taken apart', async () => {
  const { dimension } = await world.must(addDimension, { name: 'Site', values: ['Pier', 'Loft'] });
  const values = await world.books.reader.selectFrom('dimension_value').select(['id', 'name']).orderBy('id').execute();
  await world.bringIn(statementImporter, statement(0, ['2026-11-02', -10000, 'POWER']));
  const line = await world.id('statement_line', 'POWER');
  const part = (amount: number, value: number) => bookedTo(rent, amount, { [dimension]: value });
  const { match } = await world.must(confirmMatch, {
    line,
    parts: [part(-6000, values[0]!.id), part(-4000, values[1]!.id)],
    restTo: null,
  });
  const under = async () =>
    (
      await world.books.reader
        .selectFrom('journal_line as l')
        .innerJoin('journal_line_dimension as d', (j) =>
          j.onRef('d.journal_id', '=', 'l.journal_id').onRef('d.line_no', '=', 'l.line_no'),
        )
        .innerJoin('dimension_value as v', 'v.id', 'd.value_id')
        .select((e) => ['v.name', e.fn.sum<number>('l.base_amount').as('amount')])
        .groupBy('v.id')
        .orderBy('v.id')
        .execute()
    ).map((row) => [row.name, row.amount]);
  expect(await under()).toEqual([
    ['Pier', 6000],
    ['Loft', 4000],
  ]);
  const sheet = await sheetOf('POWER');
  expect(sheet.parts.map(({ title, note, net }) => [title, note, net])).toEqual([
    ['Booked to 6010 Workshop rent', 'Pier', -6000],
    ['Booked to 6010 Workshop rent', 'Loft', -4000],
  ]);
  await world.must(takeApart, { match });
  await undo();
  expect((await sheetOf('POWER')).confirmed).not.toBeNull();
  expect(await under()).toEqual([
    ['Pier', 6000],
    ['Loft', 4000],
  ]);
});

test('a line set aside is to explain no more, stands in the proof as such, and comes back', async () => {
  await world.bringIn(statementImporter, statement(0, ['2026-11-02', -5000, 'PRIVATE'], ['2026-11-03', -700, 'FEE']));
  const line = await world.id('statement_line', 'PRIVATE');
  await world.must(setLinesAside, { ids: [line], reason: 'not ours' });
  expect(await world.count('proposal')).toBe(1);
  const proof = async () => (await bankProofs(world.books.reader))[0]!;
  expect(await proof()).toMatchObject({ toExplain: { count: 1, amount: -700 }, aside: -5000 });
  const [{ difference }] = [await proof()];
  await world.must(takeLinesBack, { ids: [line] });
  expect(await proof()).toMatchObject({ toExplain: { count: 2 }, aside: 0, difference });
  await undo();
  expect((await sheetOf('PRIVATE')).line.aside).toBe('not ours');
  await world.must(takeLinesBack, { ids: [line] });
  await world.must(confirmMatch, { line, parts: [], restTo: rent });
  expect(await world.refusal(setLinesAside, { ids: [line], reason: 'late' })).toBe('line-taken');
});

test('two payouts that the bank put into one deposit are laid together, confirmed and taken apart', async () => {
  await world.bringIn(
    receiptsImporter,
    DESK_HEAD + payoutRow('P-1', '2026-11-02', 5_010) + payoutRow('P-2', '2026-11-03', 7_225),
  );
  await world.bringIn(statementImporter, statement(0, ['2026-11-05', 12_235, 'CARDS']));
  const sheet = await sheetOf('CARDS');
  expect(sheet).toMatchObject({
    certainty: 'probable',
    because: ['2 payouts, one after the other, come to it', 'equal to the cent'],
  });
  const parts = sheet.parts.map(({ id }) => ({ kind: 'payout' as const, id }));
  const { match } = await world.must(confirmMatch, { line: sheet.line.id, parts, restTo: null });
  expect(await world.balances()).toMatchObject({ '1200': -12_235 });
  await world.must(takeApart, { match });
  expect((await sheetOf('CARDS')).parts).toHaveLength(2);
});
