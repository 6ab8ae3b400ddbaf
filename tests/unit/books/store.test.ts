import Database from 'better-sqlite3';
import { readdirSync } from 'node:fs';
import { BooksFile } from '@/books/store';
import { World } from './world';

let world: World;
beforeEach(async () => {
  world = await World.open();
});
afterEach(() => world.close());

/** Straight into the file, past every command: what the database itself refuses. */
function raw(statements: string[]): string {
  const handle = new Database(world.books.path);
  handle.pragma('foreign_keys = ON');
  try {
    handle.transaction(() => statements.forEach((statement) => handle.exec(statement)))();
    return 'taken';
  } catch (error) {
    return (error as Error).message;
  } finally {
    handle.close();
  }
}

const line = (journal: number, no: number, account: number, amount: number, date = '2026-11-02') =>
  `INSERT INTO journal_line VALUES (${journal}, ${no}, ${account}, '${date}', ${amount}, 'EUR', ${amount}, '{}')`;
const head = (id: number, date = '2026-11-02', source = id) =>
  `INSERT INTO journal VALUES (${id}, '${date}', 'receipt', ${source}, 1, NULL, 'm', 't', 'a')`;

test('a balanced journal is taken', () => {
  expect(raw([line(9, 1, 1, 500), line(9, 2, 2, -500), head(9)])).toBe('taken');
});
test.each([
  ['one that does not balance', [line(9, 1, 1, 500), line(9, 2, 2, -400), head(9)], 'journal_unbalanced'],
  ['one without lines', [head(9)], 'journal_unbalanced'],
  [
    'one with a line of another day',
    [line(9, 1, 1, 5), line(9, 2, 2, -5, '2026-11-03'), head(9)],
    'journal_unbalanced',
  ],
  ['lines without a head', [line(9, 1, 1, 500), line(9, 2, 2, -500)], 'FOREIGN KEY'],
  ['a line added to a sealed journal', [line(1, 9, 1, 5)], 'journal_sealed'],
  ['a changed line', ['UPDATE journal_line SET amount = 1 WHERE journal_id = 1'], 'journal_sealed'],
  ['a deleted line', ['DELETE FROM journal_line WHERE journal_id = 1'], 'journal_sealed'],
  ['a changed head', ["UPDATE journal SET memo = 'x'"], 'journal_sealed'],
  ['a deleted head', ['DELETE FROM journal'], 'journal_sealed'],
  ['the same source posted twice', [line(8, 1, 1, 5), line(8, 2, 2, -5), head(8), line(9, 1, 1, 5), line(9, 2, 2, -5), head(9, '2026-11-02', 8)], 'UNIQUE'], // prettier-ignore
])('the database refuses %s', (_what, statements, message) => {
  expect(raw(statements)).toContain(message);
});
test('the database refuses a closed day', () => {
  expect(
    raw(["UPDATE books SET closed_through = '2026-11-02'", line(9, 1, 1, 5), line(9, 2, 2, -5), head(9)]),
  ).toContain('period_closed');
});

test('a file of a later program is left alone', async () => {
  raw(['PRAGMA user_version = 999']);
  expect(() => new BooksFile(world.books.path)).toThrow('schema 999');
});

test('books that exist are not made again', async () => {
  const { createBooks } = await import('@/books/setup/create-books');
  const { KITTIWAKE } = await import('../../../demo/kittiwake/books');
  expect(await world.refusal(createBooks, KITTIWAKE)).toBe('books-exist');
  expect(readdirSync(world.folder)).toContain('books.sqlite');
});

test('an account that is named but not listed is refused before anything is made', async () => {
  const { createBooks } = await import('@/books/setup/create-books');
  const { KITTIWAKE } = await import('../../../demo/kittiwake/books');
  const books = new BooksFile(`${world.folder}/other.sqlite`);
  const { runCommand } = await import('@/books/command');
  const items = [{ code: 'x', name: 'X', income: '9999', taxCode: 'S23' }];
  const result = await runCommand(books, createBooks, { ...KITTIWAKE, items }, { actor: { name: 'a' } });
  expect(result).toMatchObject({ ok: false, refusal: { code: 'invalid-input', field: 'account 9999' } });
  expect(await books.reader.selectFrom('books').select('name').execute()).toEqual([]);
  await books.close();
});
