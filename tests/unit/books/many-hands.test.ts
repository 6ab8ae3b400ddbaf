import { sql } from 'kysely';
import { createHash } from 'node:crypto';
import { runCommand, type Command, type Result } from '@/books/command';
import { importFile, type Importer } from '@/books/imports/import-file';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { receiptsFrom, receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { setAside } from '@/books/receipts/set-aside';
import { statementImporter, statementsFrom } from '@/books/statements/import';
import { provenLines } from '@/books/statements/list';
import { BooksFile } from '@/books/store';
import { undoChange } from '@/books/undo';
import { DESK, INVOICES, LINES } from './small-books';
import { DESK_HEAD, INVOICE_HEAD, statement, useWorld } from './world';

const world = useWorld();
/** The same books, opened by others: as many as there are workers and people. */
let hands: BooksFile[];

beforeEach(() => {
  hands = Array.from({ length: 4 }, () => new BooksFile(world.books.path));
});
afterEach(async () => {
  for (const books of hands) await books.close();
});

const db = () => world.books.reader;

/** The same done by all at once. */
const all = <I, T>(command: Command<I, T>, input: NoInfer<I>): Promise<Result<T>[]> =>
  Promise.all(hands.map((books, n) => runCommand(books, command, input, { actor: { name: `Hand ${n}` } })));

async function bringInBy<R>(books: BooksFile, importer: Importer<R>, text: string, name: string) {
  const data = Buffer.from(text);
  const open = async function* () {
    yield await Promise.resolve(data);
  };
  const sha256 = createHash('sha256').update(data).digest('hex');
  return importFile(books, importer, { name, sha256, bytes: data.length, open }, { actor: { name }, dryRun: false });
}

async function collected(): Promise<void> {
  await world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.join(''));
  await world.must(postInvoices, { filter: {} });
  await world.bringIn(receiptsImporter, DESK_HEAD + DESK.join(''));
}

async function banked(): Promise<void> {
  await collected();
  await world.must(postReceipts, { filter: {} });
  await world.bringIn(statementImporter, statement(0, ...LINES));
}

const codes = (results: readonly Result<unknown>[]) =>
  results.map((result) => (result.ok ? 'done' : result.refusal.code)).sort();
const journals = async () =>
  (await sql<{ n: number; ids: number }>`SELECT count(*) AS n, max(id) - min(id) + 1 AS ids FROM journal`.execute(db()))
    .rows[0]!;

test('a line confirmed by four at once is confirmed once; the others are told who was before them', async () => {
  await banked();
  const sheet = (await workingSheet(db(), await world.id('statement_line', 'CD P-2')))!;
  const parts = sheet.parts.map(({ kind, id }) => ({ kind, id })) as never;
  const before = await journals();
  const results = await all(confirmMatch, { line: sheet.line.id, parts, restTo: null });
  expect(codes(results)).toEqual(['done', 'line-taken', 'line-taken', 'line-taken']);
  const winner = results.findIndex(({ ok }) => ok);
  for (const result of results) if (!result.ok) expect(result.refusal).toMatchObject({ by: `Hand ${winner}` });
  expect((await journals()).n).toBe(before.n + 1);
  expect((await db().selectFrom('match').select('actor').execute()).map(({ actor }) => actor)).toEqual([
    `Hand ${winner}`,
  ]);
});

test('all proven confirmed by four at once: one does all, the others change nothing', async () => {
  await banked();
  const lines = (await provenLines(db())).map(({ id }) => id);
  expect(lines.length).toBeGreaterThan(2);
  const results = await all(confirmProven, { lines });
  expect(codes(results)).toEqual(['done', 'not-proven', 'not-proven', 'not-proven']);
  expect(await world.count('match')).toBe(lines.length);
});

test('receipts posted by four at once are posted once each, and journals are numbered without a gap', async () => {
  await collected();
  const before = await journals();
  const results = await all(postReceipts, { filter: {} });
  expect(results.every(({ ok }) => ok)).toBe(true);
  const posted = results.map((result) => (result.ok ? result.value.posted : 0)).sort((a, b) => a - b);
  const receipts = await world.count('receipt');
  expect(posted).toEqual([0, 0, 0, receipts]);
  const after = await journals();
  expect(after.n).toBe(before.n + receipts);
  expect(after.ids).toBe(after.n);
});

test('one posts while another sets the same aside: never both', async () => {
  await collected();
  const ids = await db().selectFrom('receipt').select('id').orderBy('id').execute();
  const [posting, aside] = await Promise.all([
    runCommand(hands[0]!, postReceipts, { filter: {} }, { actor: { name: 'A' } }),
    runCommand(hands[1]!, setAside, { ids: ids.map(({ id }) => id), reason: 'a test' }, { actor: { name: 'B' } }),
  ]);
  expect(posting.ok).toBe(true);
  const { rows } = await sql<{ both: number; posted: number; aside: number }>`
    SELECT sum(journal_id IS NOT NULL AND aside IS NOT NULL) AS both, sum(journal_id IS NOT NULL) AS posted,
      sum(aside IS NOT NULL) AS aside FROM receipt`.execute(db());
  expect(rows[0]!.both).toBe(0);
  expect([rows[0]!.posted, rows[0]!.aside]).toEqual(aside.ok ? [0, ids.length] : [ids.length, 0]);
});

test('one file brought in by four at once comes in once, and all its lines with it', async () => {
  await collected();
  const text = statement(0, ...LINES);
  const reports = await Promise.all(hands.map((books, n) => bringInBy(books, statementsFrom(), text, `hand-${n}.csv`)));
  const added = reports.map((report) => (report.ok ? report.value.added : -1)).sort((a, b) => a - b);
  expect(added).toEqual([0, 0, 0, LINES.length]);
  expect(await world.count('statement_line')).toBe(LINES.length);
  const desk = DESK_HEAD + DESK.join('').replace(/R-/g, 'Q-').replace(/F-/g, 'G-').replace(/P-/g, 'O-');
  const more = await Promise.all(hands.map((books, n) => bringInBy(books, receiptsFrom({}), desk, `desk-${n}.csv`)));
  const came = more.map((report) => (report.ok ? report.value.added : -1)).sort((a, b) => a - b);
  expect(came.slice(0, 3)).toEqual([0, 0, 0]);
  expect(await world.count('receipt')).toBe(2 * (DESK.length - 4));
});

test('two that belong to each other’s work: a match taken apart by two, a change taken back by two', async () => {
  await banked();
  const lines = (await provenLines(db())).map(({ id }) => id);
  await world.must(confirmProven, { lines });
  const audit = await world.lastAudit();
  const [match] = await db().selectFrom('match').select('id').orderBy('id').execute();
  const apart = await all(takeApart, { match: match!.id });
  expect(codes(apart)).toEqual(['done', 'match-undone', 'match-undone', 'match-undone']);
  // The change that confirmed it cannot be taken back whole any more, by nobody, and nothing of it is.
  const before = await world.balances();
  expect(codes(await all(undoChange, { audit }))).toEqual(new Array(4).fill('match-undone'));
  expect(await world.balances()).toEqual(before);
  await world.undoLast();
  expect(codes(await all(undoChange, { audit }))).toEqual([
    'done',
    'nothing-to-undo',
    'nothing-to-undo',
    'nothing-to-undo',
  ]);
  expect(await db().selectFrom('match').select('id').where('undone_at', 'is', null).execute()).toEqual([]);
});
