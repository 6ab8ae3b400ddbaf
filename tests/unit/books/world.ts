import { createHash } from 'node:crypto';
import { copyFileSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { runCommand, type Command, type Result } from '@/books/command';
import { importFile, type Importer, type ImportReport } from '@/books/imports/import-file';
import { accountBalances } from '@/books/ledger/balances';
import { createBooks, type BooksInput } from '@/books/setup/create-books';
import { BooksFile } from '@/books/store';
import { undoChange } from '@/books/undo';
import { sql } from 'kysely';
import { KITTIWAKE } from '../../../demo/kittiwake/books';

export const ACTOR = { name: 'A. Tester' };
const NOW = new Date('2026-11-16T09:00:00Z');

/** Books in a folder of their own, driven through the same commands as the pages. */
export class World {
  private opened: { readonly folder: string; readonly books: BooksFile } | null = null;

  static async open(change: Partial<BooksInput> = {}): Promise<World> {
    const world = new World();
    await world.begin(change);
    return world;
  }

  /** New books in place of any that were, as Kittiwake’s are made but for what is said. */
  async begin(change: Partial<BooksInput> = {}): Promise<void> {
    if (this.opened) await this.close();
    this.folderWith();
    await this.must(createBooks, { ...KITTIWAKE, ...change });
  }

  /** A copy of books that are there and that nobody has open, in place of any that were. */
  async beginCopyOf(path: string): Promise<void> {
    if (this.opened) await this.close();
    this.folderWith((file) => copyFileSync(path, file));
  }

  private folderWith(prepare: (file: string) => void = () => undefined): void {
    const folder = mkdtempSync(join(tmpdir(), 'nest-egg-'));
    const file = join(folder, 'books.sqlite');
    prepare(file);
    this.opened = { folder, books: new BooksFile(file) };
  }

  get books(): BooksFile {
    return this.opened!.books;
  }

  get folder(): string {
    return this.opened!.folder;
  }

  async close(): Promise<void> {
    await this.books.close();
    rmSync(this.folder, { recursive: true });
    this.opened = null;
  }

  run<I, T>(command: Command<I, T>, input: NoInfer<I>, dryRun = false): Promise<Result<T>> {
    return runCommand(this.books, command, input, { actor: ACTOR, now: NOW, dryRun });
  }

  async must<I, T>(command: Command<I, T>, input: NoInfer<I>): Promise<T> {
    const result = await this.run(command, input);
    if (!result.ok) throw new Error(JSON.stringify(result.refusal));
    return result.value;
  }

  async refusal<I, T>(command: Command<I, T>, input: NoInfer<I>): Promise<string> {
    const result = await this.run(command, input);
    if (result.ok) throw new Error(`${command.name} was not refused`);
    return result.refusal.code;
  }

  /** The audit row of the last change, or of the last one by a command. */
  async lastAudit(command?: string): Promise<number> {
    const { rows } = await sql<{ id: number }>`
      SELECT max(id) AS id FROM audit WHERE command = coalesce(${command ?? null}, command)
    `.execute(this.books.reader);
    return rows[0]!.id;
  }

  /** Takes the last change back, or the last one by a command, as the page’s Undo does. */
  async undoLast(command?: string): Promise<void> {
    await this.must(undoChange, { audit: await this.lastAudit(command) });
  }

  /** What the last change says it did. */
  async lastChange(): Promise<string> {
    const row = await this.books.reader
      .selectFrom('audit')
      .select('summary')
      .orderBy('id', 'desc')
      .executeTakeFirstOrThrow();
    return row.summary;
  }

  bringIn<R>(importer: Importer<R>, text: string, dryRun = false, name = 'file.csv'): Promise<ImportReport> {
    return this.bringInBytes(importer, Buffer.from(text), name, dryRun);
  }

  async bringInBytes<R>(importer: Importer<R>, data: Uint8Array, name: string, dryRun = false): Promise<ImportReport> {
    const open = async function* () {
      yield data;
    };
    const sha256 = createHash('sha256').update(data).digest('hex');
    const file = { name, sha256, bytes: data.length, open };
    const result = await importFile(this.books, importer, file, { actor: ACTOR, now: NOW, dryRun });
    if (!result.ok) throw new Error(JSON.stringify(result.refusal));
    return result.value;
  }

  /** Balance by account code, debits less credits. */
  async balances(): Promise<Record<string, number>> {
    const accounts = await accountBalances(this.books.reader);
    return Object.fromEntries(accounts.filter((a) => a.balance !== 0).map((a) => [a.code, a.balance]));
  }

  async account(code: string) {
    const row = await this.books.reader
      .selectFrom('account')
      .select('id')
      .where('code', '=', code)
      .executeTakeFirstOrThrow();
    return row.id;
  }

  async count(table: string): Promise<number> {
    const { rows } = await sql<{ n: number }>`SELECT count(*) AS n FROM ${sql.table(table)}`.execute(this.books.reader);
    return rows[0]!.n;
  }

  async id(table: 'receipt' | 'payout' | 'invoice' | 'statement_line', name: string): Promise<number> {
    const column = { receipt: 'external_id', payout: 'external_id', invoice: 'number', statement_line: 'text' }[table];
    const { rows } = await sql<{ id: number }>`
      SELECT id FROM ${sql.table(table)} WHERE ${sql.ref(column)} = ${name} ORDER BY id
    `.execute(this.books.reader);
    if (!rows[0]) throw new Error(`no ${table} ${name}`);
    return rows[0].id;
  }

  /** The ledger's own invariants: every journal balances, and day totals are the sums of the lines. */
  async expectSound(): Promise<void> {
    const db = this.books.reader;
    const unbalanced = await sql`
      SELECT journal_id FROM journal_line GROUP BY journal_id HAVING sum(base_amount) <> 0
    `.execute(db);
    expect(unbalanced.rows).toEqual([]);
    const off = await sql`
      SELECT account_id, day FROM (
        SELECT account_id, book_date AS day, sum(max(base_amount, 0)) AS debit, -sum(min(base_amount, 0)) AS credit,
               count(*) AS lines FROM journal_line GROUP BY 1, 2
        EXCEPT SELECT account_id, day, debit, credit, lines FROM account_day)
    `.execute(db);
    expect(off.rows).toEqual([]);
    const paid = await sql`
      SELECT i.number FROM invoice i
      WHERE i.paid <> -coalesce((SELECT sum(e.amount) FROM invoice_entry e
        WHERE e.invoice_id = i.id AND e.kind NOT IN ('issued', 'corrected')), 0)
        OR (i.journal_id IS NOT NULL AND i.gross - i.paid <> (
          SELECT sum(e.amount) FROM invoice_entry e WHERE e.invoice_id = i.id))
    `.execute(db);
    expect(paid.rows).toEqual([]);
    // What is owed and what is kept for payers are the ledger's own balances, day by day.
    const owed = await sql`
      SELECT book_date, sum(amount) AS amount FROM (
        SELECT book_date, amount FROM invoice_entry UNION ALL
        SELECT l.book_date, -l.base_amount FROM journal_line l JOIN account a ON a.id = l.account_id
        JOIN journal j ON j.id = l.journal_id WHERE a.role = 'receivable' AND j.source_kind <> 'opening')
      GROUP BY book_date HAVING sum(amount) <> 0
    `.execute(db);
    expect(owed.rows).toEqual([]);
    const kept = await sql`
      SELECT book_date, sum(amount) AS amount FROM (
        SELECT book_date, amount FROM credit_entry UNION ALL
        SELECT l.book_date, l.base_amount FROM journal_line l JOIN account a ON a.id = l.account_id
        JOIN journal j ON j.id = l.journal_id WHERE a.role = 'payer_credit' AND j.source_kind <> 'opening')
      GROUP BY book_date HAVING sum(amount) <> 0
    `.execute(db);
    expect(kept.rows).toEqual([]);
    const orphans =
      await sql`SELECT journal_id FROM journal_line WHERE journal_id NOT IN (SELECT id FROM journal)`.execute(db);
    expect(orphans.rows).toEqual([]);
  }
}

/** Books that are new for each test of a file, and sound after it. */
export function useWorld(change: Partial<BooksInput> = {}): World {
  const world = new World();
  beforeEach(() => world.begin(change));
  afterEach(async () => {
    await world.expectSound();
    await world.close();
  });
  return world;
}

export const DESK_HEAD = 'Id,Type,Time,Currency,Gross,Fee,Net,Payer,Email,Document,Item,Note,Payout,Refund of\n';
export const INVOICE_HEAD = 'Number,Payer,Email,Issued,Due,Currency,Item,Net,Tax code,Tax\n';
const IBAN = KITTIWAKE.bankAccounts[0]!.iban.replace(/ /g, '');
export const STATEMENT_HEAD = 'Account,Booked,Amount,Currency,Text,Reference,Balance\n';

/** A statement CSV from [date, cents, text], with balances that follow. */
export function statement(opening: number, ...lines: readonly (readonly [string, number, string])[]): string {
  let balance = opening;
  const money = (cents: number) => (cents / 100).toFixed(2);
  return (
    STATEMENT_HEAD +
    lines
      .map(([date, cents, text]) => {
        balance += cents;
        return `${IBAN},${date},${money(cents)},EUR,${text},,${money(balance)}\n`;
      })
      .join('')
  );
}

/** Worked figure A as files: one invoice, paid by card, paid out, and at the bank. */
export const FIGURE_A = {
  invoice: `${INVOICE_HEAD}KS-2041,A. Tern,a.tern@mail.example,2026-11-02,2026-11-23,EUR,repair,120.00,S23,27.60\n`,
  desk:
    DESK_HEAD +
    'CD-1,receipt,2026-11-09T10:00:00Z,EUR,147.60,3.05,144.55,A. Tern,A.Tern@mail.example,KS-2041,,,P-1,\n' +
    'P-1,payout,2026-11-10T05:00:00Z,EUR,-144.55,,-144.55,,,,,,,\n',
  statement: statement(100_000, ['2026-11-12', 14_455, 'CD SETTLEMENT']),
};
