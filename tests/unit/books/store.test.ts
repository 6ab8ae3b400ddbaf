import Database from 'better-sqlite3';
import fc from 'fast-check';
import { sql } from 'kysely';
import { readdirSync } from 'node:fs';
import { BooksFile, readPacked } from '@/books/store';
import { MIGRATIONS } from '@/books/store/migrations';
import { saveStatementRule } from '@/books/matching/statement-rules';
import { statementImporter } from '@/books/statements/import';
import type { AccountId } from '@/core/ledger';
import { statement, World } from './world';

// What is written past the commands is not sound.
const world = new World();
beforeEach(() => world.begin());
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

/** Whatever the demo of the tests has sealed already. */
function sealed(): { seal: number; journal: number } {
  const handle = new Database(world.books.path, { readonly: true });
  const row = handle.prepare('SELECT max(id) AS seal, max(last_journal) AS journal FROM seal').get();
  handle.close();
  return row as { seal: number; journal: number };
}
const line = (journal: number, no: number, account: number, amount: number, date = '2026-11-02') =>
  `INSERT INTO journal_line VALUES (${journal}, ${no}, ${account}, '${date}', ${amount}, 'EUR', ${amount}, '{}')`;
const head = (id: number, seal: number, source = id) =>
  `INSERT INTO journal VALUES (${id}, ${seal}, '2026-11-02', 'receipt', ${source}, 1, NULL, 'm', 't', 'a')`;
const seal = (id: number, first: number, last = first) => `INSERT INTO seal VALUES (${id}, ${first}, ${last})`;

type Next = { s: number; j: number };
const whole = ({ s, j }: Next) => [head(j, s), line(j, 1, 1, 500), line(j, 2, 2, -500)];
const next = (): Next => {
  const { seal: s, journal: j } = sealed();
  return { s: s + 1, j: j + 1 };
};

test('balanced journals are taken, several under one seal', () => {
  const { s, j } = next();
  expect(raw([...whole({ s, j }), ...whole({ s, j: j + 1 }), seal(s, j, j + 1)])).toBe('taken');
});
test.each<[string, (n: Next) => string[], string]>([
  [
    'one that does not balance',
    ({ s, j }) => [head(j, s), line(j, 1, 1, 500), line(j, 2, 2, -400), seal(s, j)],
    'journal_unbalanced',
  ],
  ['one without lines', ({ s, j }) => [head(j, s), seal(s, j)], 'journal_unbalanced'],
  [
    'one with a line of another day',
    ({ s, j }) => [head(j, s), line(j, 1, 1, 5), line(j, 2, 2, -5, '2026-11-03'), seal(s, j)],
    'journal_unbalanced',
  ],
  [
    'one bad journal among good ones',
    ({ s, j }) => [...whole({ s, j }), head(j + 1, s), line(j + 1, 1, 1, 5), line(j + 1, 2, 2, -6), seal(s, j, j + 1)],
    'journal_unbalanced',
  ],
  ['a journal that is never sealed', whole, 'FOREIGN KEY'],
  ['a seal over a journal that is missing', ({ s, j }) => [...whole({ s, j }), seal(s, j, j + 1)], 'seal_gap'],
  [
    'a seal that leaves one out',
    ({ s, j }) => [...whole({ s, j }), ...whole({ s, j: j + 1 }), seal(s, j + 1)],
    'seal_gap',
  ],
  ['a seal over what another sealed', ({ s, j }) => [seal(s, j - 1)], 'seal_gap'],
  ['lines without a head', ({ j }) => [line(j, 1, 1, 500), line(j, 2, 2, -500)], 'FOREIGN KEY'],
  ['a line added to a sealed journal', () => [line(1, 9, 1, 5)], 'journal_sealed'],
  ['a changed line', () => ['UPDATE journal_line SET amount = 1 WHERE journal_id = 1'], 'journal_sealed'],
  ['a deleted line', () => ['DELETE FROM journal_line WHERE journal_id = 1'], 'journal_sealed'],
  ['a changed head', () => ["UPDATE journal SET memo = 'x'"], 'journal_sealed'],
  ['a deleted head', () => ['DELETE FROM journal'], 'journal_sealed'],
  ['a broken seal', () => ['DELETE FROM seal'], 'journal_sealed'],
  ['the same source posted twice', ({ s, j }) => [...whole({ s, j }), head(j + 1, s, j)], 'UNIQUE'],
])('the database refuses %s', (_what, statements, message) => {
  expect(raw(statements(next()))).toContain(message);
});
test('the database refuses a closed day', () => {
  const n = next();
  expect(raw(["UPDATE books SET closed_through = '2026-11-02'", ...whole(n), seal(n.s, n.j)])).toContain(
    'period_closed',
  );
});

test('books of an earlier schema come along: sealed as they were, receipts tied to their invoices', () => {
  const path = `${world.folder}/early.sqlite`;
  const early = new Database(path);
  early.exec(MIGRATIONS[0]! + MIGRATIONS[1]!);
  early.exec(`BEGIN;
    INSERT INTO books VALUES (1, 'Early', 'EUR', 'Europe/Dublin', 'IE', NULL, NULL);
    INSERT INTO account VALUES (1, '1', 'A', 'asset', NULL, 'EUR'), (2, '2', 'B', 'income', NULL, 'EUR');
    INSERT INTO journal_line VALUES (1, 1, 1, '2026-11-02', 500, 'EUR', 500, '{}'), (1, 2, 2, '2026-11-02', -500, 'EUR', -500, '{}');
    INSERT INTO journal VALUES (1, '2026-11-02', 'opening', 1, 1, NULL, 'm', 't', 'a');
    COMMIT; PRAGMA user_version = 2;`);
  early.close();
  const books = new BooksFile(path);
  return books.reader
    .selectFrom('journal')
    .innerJoin('journal_line', 'journal_line.journal_id', 'journal.id')
    .innerJoin('seal', 'seal.id', 'journal.seal_id')
    .select(['journal.memo', 'amount', 'last_journal'])
    .execute()
    .then((rows) =>
      expect(rows.map((row) => [row.memo, row.amount, row.last_journal])).toEqual([
        ['m', 500, 1],
        ['m', -500, 1],
      ]),
    )
    .finally(() => books.close());
});

test('what rules booked before it had a group of its own comes along in it, with what is laid', async () => {
  const [rent, income] = [await world.account('6010'), await world.account('4010')];
  const rule = (name: string, account: AccountId) =>
    world.must(saveStatementRule, {
      id: null,
      name,
      active: true,
      conditions: { texts: [{ how: 'words', text: name }] },
      result: { account, dimensions: {}, taxCode: null, payer: null, byNumber: [] },
    });
  await world.bringIn(
    statementImporter,
    statement(0, ['2026-11-02', -85_000, 'RENT'], ['2026-11-03', 900, 'HALL'], ['2026-11-04', -5, 'OTHER']),
  );
  await rule('Rent', rent);
  await rule('Hall', income);
  const told = (books: BooksFile) =>
    books.reader
      .selectFrom('proposal as q')
      .leftJoin('proposal_part as x', 'x.statement_line_id', 'q.statement_line_id')
      .select(['q.certainty', 'q.amount', 'x.ref_id as account'])
      .orderBy('q.book_date')
      .execute();
  const now = await told(world.books);
  expect(now).toEqual([
    { certainty: 'not-ours', amount: -85_000, account: rent },
    { certainty: 'probable', amount: 900, account: income },
    { certainty: 'none', amount: -5, account: null },
  ]);
  // As the schema before had it; it is rebuilt from there.
  const before = [
    "UPDATE proposal SET certainty = 'probable' WHERE certainty = 'not-ours'",
    'DROP TABLE doubled_part',
    'DROP TABLE doubled',
    'DROP INDEX match_rest',
    'ALTER TABLE payer_alias DROP COLUMN at_bank',
    'DROP TABLE forgotten_name',
    'PRAGMA user_version = 19',
  ];
  expect(raw(before)).toBe('taken');
  const again = new BooksFile(world.books.path);
  try {
    expect(await told(again)).toEqual(now);
    expect(readdirSync(world.folder).some((name) => name.startsWith(`books.sqlite.before-${MIGRATIONS.length}-`))).toBe(
      true,
    );
  } finally {
    await again.close();
  }
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

test('many rows read as one text are what they are cell by cell: any text, any whole number, nothing', async () => {
  const cell = fc.oneof(
    fc.string({ unit: 'binary' }),
    fc.maxSafeInteger(),
    fc.constantFrom(null, '', '"', '\\', '\u2028', '[1]', 'null', '{"a":1}'),
  );
  const row = fc.record({ a: cell, b: cell, 'a "name"': cell });
  // What SQLite keeps as text ends at no NUL for JSON either, and lone halves of letters are nothing it could keep.
  const kept = (value: unknown) =>
    typeof value !== 'string' || (Buffer.from(value).toString() === value && !value.includes('\0'));
  const rows = fc.array(
    row.filter((one) => Object.values(one).every(kept)),
    { maxLength: 30 },
  );
  await fc.assert(
    fc.asyncProperty(rows, async (wanted) => {
      type Row = (typeof wanted)[number];
      const given = sql<Row>`
        SELECT value ->> 0 AS a, value ->> 1 AS b, value ->> 2 AS "a ""name""" FROM json_each(${JSON.stringify(wanted.map((one) => Object.values(one)))})`;
      const packed = await readPacked(world.books.reader, ['a', 'b', 'a "name"'], given);
      expect(packed).toEqual((await given.execute(world.books.reader)).rows);
      expect(packed).toEqual(wanted.map((one) => ({ ...one })));
    }),
    { numRuns: 150 },
  );
});
