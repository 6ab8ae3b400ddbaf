import { confirmAgain, confirmMatch, confirmProbable } from '@/books/matching/confirm';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { statementOfAccount } from '@/books/payers/account';
import { mergePayers } from '@/books/payers/same';
import { creditsOf } from '@/books/settling/open';
import { settleInvoices } from '@/books/settling/settle';
import { undoImport } from '@/books/imports/undo-import';
import { statementImporter } from '@/books/statements/import';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { bill, issue, payerNamed } from './bills';
import { statement, useWorld } from './world';

const world = useWorld();
let anna: number;
let number: string;
let invoice: number;
beforeEach(async () => {
  anna = await payerNamed(world, 'Anna Berg');
  ({ number, invoice } = await issue(world, await bill(world, anna, [10_000])));
});

const db = () => world.books.reader;
const pays = async (text: string, amount: number) => {
  const report = await world.bringIn(statementImporter, statement(0, ['2026-11-16', amount, text]));
  return { run: report.run!, line: await world.id('statement_line', text) };
};
const credit = () => world.account('2200');
const undo = () => world.undoLast();

test('more than was owed is laid with what is over kept for the payer (recipe 12), and confirmed so', async () => {
  const { line } = await pays(`BERG ${number}`, 12_700);
  const sheet = (await workingSheet(db(), line))!;
  expect(sheet).toMatchObject({
    certainty: 'probable',
    restTo: await credit(),
    parts: [{ kind: 'invoice', net: 12_300, owedBy: { id: anna, name: 'Anna Berg' } }],
  });
  expect(sheet.because).toContain('4.00 more than is open');
  await world.must(confirmProbable, { lines: [line] });
  expect((await world.balances())['2200']).toBe(-400);
  const [kept] = await creditsOf(db(), anna);
  expect(kept).toMatchObject({ source: { line, payer: anna }, name: 'Deposit', date: '2026-11-16', left: 400 });
  const because = (await workingSheet(db(), line))!.confirmed!.journal.lines.map((one) => one.because);
  expect(because).toContain(`more than invoice ${number} has open, kept for the payer`);
  const account = await statementOfAccount(db(), anna, plainDate('2026-01-01'), plainDate('2026-12-31'));
  expect(account.closing).toBe(-400);
});

test('what is kept is put to another invoice; then the deposit is not taken apart, and after taking it off again it is', async () => {
  const { line } = await pays(`BERG ${number}`, 12_700);
  const { match } = await world.must(confirmMatch, {
    line,
    parts: [{ kind: 'invoice', id: invoice, amount: minor(12_300) }],
    restTo: await credit(),
  });
  const next = await issue(world, await bill(world, anna, [1_000]));
  await world.must(settleInvoices, {
    from: [{ line, payer: anna }],
    to: [{ invoice: next.invoice, amount: minor(400), discount: false, writeOff: minor(0) }],
    date: null,
  });
  expect((await world.balances())['2200']).toBeUndefined();
  expect(await world.refusal(takeApart, { match })).toBe('credit-used');
  await undo();
  await world.must(takeApart, { match });
  expect(await creditsOf(db(), anna)).toEqual([]);
  await world.must(confirmAgain, { matches: [match] });
  expect(await creditsOf(db(), anna)).toMatchObject([{ left: 400 }]);
});

test('of several payers, or without an invoice, nothing can be kept; a merged payer keeps it under the other', async () => {
  const ben = await payerNamed(world, 'Ben Dahl');
  const other = await issue(world, await bill(world, ben, [10_000]));
  const { line } = await pays('TWO AT ONCE', 25_000);
  const parts = [invoice, other.invoice].map((id) => ({ kind: 'invoice' as const, id, amount: minor(12_300) }));
  expect(await world.refusal(confirmMatch, { line, parts, restTo: await credit() })).toBe('rest-account');
  expect(await world.refusal(confirmMatch, { line, parts: [], restTo: await credit() })).toBe('rest-account');
  await world.must(confirmMatch, { line, parts: [parts[0]!], restTo: await credit() });
  await world.must(mergePayers, { from: anna, into: ben });
  expect(await creditsOf(db(), ben)).toMatchObject([{ left: 12_700 }]);
});

test('a statement whose match was taken apart goes back, also where something had been kept of it', async () => {
  const { run, line } = await pays(`BERG ${number}`, 12_700);
  const { match } = await world.must(confirmMatch, {
    line,
    parts: [{ kind: 'invoice', id: invoice, amount: minor(12_300) }],
    restTo: await credit(),
  });
  await world.must(takeApart, { match });
  await world.must(undoImport, { run });
  expect(await world.count('statement_line')).toBe(0);
  expect(await creditsOf(db(), anna)).toEqual([]);
});
