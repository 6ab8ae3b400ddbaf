import { existsSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { BlobStore, readBytes } from '@/adapters/blob-store';
import { refusalWords, runCommand, type Command, type Result } from '@/books/command';
import { importFile, type Importer } from '@/books/imports/import-file';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { saveStatementRule } from '@/books/matching/statement-rules';
import { receiptsFrom } from '@/books/receipts/import';
import { lookAtFile } from '@/books/receipts/sniff-file';
import { BooksFile } from '@/books/store';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { LIMITS } from '@/formats/finding';

/** The bookkeeper of the demo, and the hour at which the work so far was done. */
const ACTOR = { name: 'M. Dunne' };
const NOW = new Date('2026-11-13T16:40:00Z');

function must<T>(what: string, result: Result<T>): T {
  if (result.ok) return result.value;
  throw new Error(`${what}: ${refusalWords(result.refusal).what}`);
}

/** Makes a set of books anew in a folder of data, and closes them behind whatever is done with them. */
export async function inFreshBooks<L extends DemoLoader>(
  data: string,
  name: string,
  loader: (books: BooksFile, blobFolder: string) => L,
  does: (demo: L) => Promise<void>,
): Promise<void> {
  const path = join(data, 'books', `${name}.sqlite`);
  for (const end of ['', '-wal', '-shm']) if (existsSync(path + end)) rmSync(path + end);
  const books = new BooksFile(path);
  try {
    await does(loader(books, join(data, 'files', name)));
  } finally {
    await books.close();
  }
}

/** Drives books through the same commands as the pages do. */
export class DemoLoader {
  private readonly blobs: BlobStore;

  constructor(
    readonly books: BooksFile,
    blobFolder: string,
    private readonly files: string,
  ) {
    this.blobs = new BlobStore(blobFolder);
  }

  async run<I, T>(command: Command<I, T>, input: I): Promise<T> {
    return must(command.name, await runCommand(this.books, command, input, { actor: ACTOR, now: NOW }));
  }

  async accountOf(code: string): Promise<AccountId> {
    const row = await this.books.reader
      .selectFrom('account')
      .select('id')
      .where('code', '=', code)
      .executeTakeFirstOrThrow();
    return row.id;
  }

  /**
   * Brings an export in the way the pages do: looked at, read as it seems to be or as somebody corrects it, under the
   * reading found for its header.
   */
  async bringInExport(channel: number, name: string, corrected: Partial<ReceiptProfile> = {}): Promise<void> {
    const look = await lookAtFile(this.books.reader, () => readBytes(join(this.files, name)), channel);
    if (look.kind !== 'read') throw new Error(`${name} was not read`);
    const { fingerprint, profile, ambiguousDates } = look.sniffed;
    if (ambiguousDates) throw new Error(`${name} does not tell day from month`);
    const settings = look.saved ?? { ...profile, ...corrected };
    await this.bringIn(receiptsFrom({ channel, profile: { fingerprint, settings } }), name);
  }

  /** Switches a statement rule on: what says these words is booked to an account. */
  async statementRule(name: string, words: string, code: string, dimensions: Readonly<Record<number, number>> = {}) {
    const result = { account: await this.accountOf(code), dimensions, taxCode: null, payer: null, byNumber: [] };
    const conditions = { texts: [{ how: 'words' as const, text: words }] };
    return (await this.run(saveStatementRule, { id: null, name, active: true, conditions, result })).rule;
  }

  /** Confirms what is proven up to a day. */
  async confirmProven(through: string): Promise<void> {
    const proven = await this.books.reader
      .selectFrom('proposal')
      .select('statement_line_id as id')
      .where('certainty', '=', 'proven')
      .where('book_date', '<=', through as PlainDate)
      .execute();
    await this.run(confirmProven, { lines: proven.map(({ id }) => id) });
  }

  /** Books what was paid out of the bank up to a day to an account. */
  async confirmSpent(through: string, code: string): Promise<void> {
    const restTo = await this.accountOf(code);
    const spent = await this.books.reader
      .selectFrom('statement_line')
      .select('id')
      .where('amount', '<', 0 as Minor)
      .where('book_date', '<=', through as PlainDate)
      .execute();
    for (const { id } of spent) await this.run(confirmMatch, { line: id, parts: [], restTo });
  }

  async bringIn<R>(importer: Importer<R>, name: string): Promise<void> {
    const stored = await this.blobs.put(readBytes(join(this.files, name)), LIMITS.fileBytes);
    const file = { name, sha256: stored.sha256, bytes: stored.bytes, open: () => readBytes(stored.path) };
    const report = must(name, await importFile(this.books, importer, file, { actor: ACTOR, now: NOW, dryRun: false }));
    if (report.fileFinding || report.refused > 0) throw new Error(`${name} was refused`);
  }
}
