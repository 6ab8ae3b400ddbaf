import Database from 'better-sqlite3';
import { Kysely, type Transaction } from 'kysely';
import { existsSync, mkdirSync } from 'node:fs';
import { dirname } from 'node:path';
import { bulkInsert, type BulkInsert } from './bulk';
import { migrate } from './migrate';
import type { BooksSchema } from './schema';
import { sqliteDialect } from './sqlite-dialect';

/** What reads: a Kysely on a read-only connection, or a transaction of it. */
export type Reading = Kysely<BooksSchema>;

/** What writes: one transaction, with prepared bulk inserts on the same connection. */
export interface Writing {
  readonly db: Transaction<BooksSchema>;
  bulk<T extends keyof BooksSchema>(table: T, columns: readonly (keyof BooksSchema[T] & string)[]): BulkInsert;
}

const READERS = 4;

function open(file: string, options: Database.Options): Database.Database {
  const handle = new Database(file, options);
  handle.pragma('busy_timeout = 20');
  handle.pragma('foreign_keys = ON');
  handle.pragma('trusted_schema = OFF');
  handle.pragma('cache_size = -65536');
  handle.pragma('temp_store = FILE');
  return handle;
}

/** Undoes a transaction without an error: a dry run, or a refusal found on the way. */
class RolledBack<T> extends Error {
  constructor(readonly value: T) {
    super('rolled back');
  }
}

/** One books file, open: one connection that writes and a few that read. */
export class BooksFile {
  private readonly handle: Database.Database;
  private readonly writer: Kysely<BooksSchema>;
  /** For single queries; several that must agree with each other go through {@link read}. */
  readonly reader: Reading;

  /** Opens the file, or makes it where there is none, and brings its schema up to date. */
  constructor(readonly path: string) {
    if (!existsSync(dirname(path))) mkdirSync(dirname(path), { recursive: true });
    this.handle = open(path, {});
    this.handle.pragma('journal_mode = WAL');
    this.handle.pragma('synchronous = FULL');
    migrate(this.handle, path);
    this.writer = new Kysely({ dialect: sqliteDialect([this.handle], 'BEGIN IMMEDIATE') });
    const readers = Array.from({ length: READERS }, () => open(path, { readonly: true }));
    this.reader = new Kysely({ dialect: sqliteDialect(readers, 'BEGIN') });
  }

  /** Several queries on one state of the books. */
  read<T>(queries: (db: Reading) => Promise<T>): Promise<T> {
    return this.reader.transaction().execute(queries);
  }

  /**
   * One change in one transaction. `keep` decides from the result whether it stands; else all of it is rolled back and
   * the result is given all the same.
   */
  async write<T>(change: (tx: Writing) => Promise<T>, keep: (result: T) => boolean): Promise<T> {
    try {
      return await this.writer.transaction().execute(async (db) => {
        const result = await change({ db, bulk: (table, columns) => bulkInsert(this.handle, table, columns) });
        if (!keep(result)) throw new RolledBack(result);
        return result;
      });
    } catch (error) {
      if (error instanceof RolledBack) return error.value as T;
      throw error;
    }
  }

  /**
   * The writing connection itself, for staging a file into temporary tables before its transaction begins. Whoever uses
   * it must be the only user of this BooksFile: a worker has one of its own.
   */
  staging(): { readonly handle: Database.Database; readonly db: Kysely<BooksSchema> } {
    return { handle: this.handle, db: this.writer };
  }

  async close(): Promise<void> {
    await this.reader.destroy();
    await this.writer.destroy();
  }
}
