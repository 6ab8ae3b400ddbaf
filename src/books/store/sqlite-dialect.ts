import type Database from 'better-sqlite3';
import {
  type CompiledQuery,
  type DatabaseConnection,
  type Dialect,
  type Driver,
  type QueryResult,
  SqliteAdapter,
  SqliteIntrospector,
  SqliteQueryCompiler,
} from 'kysely';
import { setTimeout as wait } from 'node:timers/promises';

/** How long a writer waits for another process or worker that is writing the same books, in milliseconds. */
const WRITE_PATIENCE = 30_000;
const STATEMENTS_KEPT = 400;

/** Another writer held the books longer than {@link WRITE_PATIENCE}. */
export class BooksBusy extends Error {
  constructor() {
    super('the books are being written by another job');
  }
}

/** One SQLite handle with its prepared statements, oldest dropped first. */
class Connection implements DatabaseConnection {
  private readonly statements = new Map<string, Database.Statement>();

  constructor(readonly handle: Database.Database) {}

  private prepare(sql: string): Database.Statement {
    let statement = this.statements.get(sql);
    if (statement === undefined) {
      statement = this.handle.prepare(sql);
      if (this.statements.size >= STATEMENTS_KEPT) this.statements.delete(this.statements.keys().next().value!);
    } else {
      this.statements.delete(sql);
    }
    this.statements.set(sql, statement);
    return statement;
  }

  async executeQuery<R>(query: CompiledQuery): Promise<QueryResult<R>> {
    const statement = this.prepare(query.sql);
    if (statement.reader) return { rows: statement.all(query.parameters) as R[] };
    const { changes, lastInsertRowid } = statement.run(query.parameters);
    return { numAffectedRows: BigInt(changes), insertId: BigInt(lastInsertRowid), rows: [] };
  }

  async *streamQuery<R>(query: CompiledQuery): AsyncIterableIterator<QueryResult<R>> {
    // A statement of its own: a cached one would be busy while the stream is open.
    for (const row of this.handle.prepare(query.sql).iterate(query.parameters)) yield { rows: [row as R] };
  }
}

/** Hands out a few connections one user at a time; who comes when all are taken waits in turn. */
class PooledDriver implements Driver {
  private readonly free: Connection[];
  private readonly waiting: ((connection: Connection) => void)[] = [];

  constructor(
    private readonly handles: readonly Database.Database[],
    private readonly begin: 'BEGIN IMMEDIATE' | 'BEGIN',
  ) {
    this.free = handles.map((handle) => new Connection(handle));
  }

  async init(): Promise<void> {}

  async acquireConnection(): Promise<DatabaseConnection> {
    return this.free.pop() ?? new Promise<Connection>((resolve) => this.waiting.push(resolve));
  }

  async releaseConnection(connection: DatabaseConnection): Promise<void> {
    const next = this.waiting.shift();
    if (next) next(connection as Connection);
    else this.free.push(connection as Connection);
  }

  /** A writer takes the lock at once; while another holds it, this waits without blocking the thread. */
  async beginTransaction(connection: DatabaseConnection): Promise<void> {
    const { handle } = connection as Connection;
    for (const deadline = Date.now() + WRITE_PATIENCE; ;) {
      try {
        handle.exec(this.begin);
        return;
      } catch (error) {
        if (!isBusy(error)) throw error;
        if (Date.now() > deadline) throw new BooksBusy();
        await wait(15);
      }
    }
  }

  async commitTransaction(connection: DatabaseConnection): Promise<void> {
    (connection as Connection).handle.exec('COMMIT');
  }

  async rollbackTransaction(connection: DatabaseConnection): Promise<void> {
    const { handle } = connection as Connection;
    if (handle.inTransaction) handle.exec('ROLLBACK');
  }

  async destroy(): Promise<void> {
    for (const handle of this.handles) handle.close();
  }
}

/** Told by its code, not by its class: the driver may have been loaded beside another set of the program's globals. */
const isBusy = (error: unknown): boolean =>
  typeof error === 'object' && error !== null && 'code' in error && String(error.code).startsWith('SQLITE_BUSY');

/** Kysely over better-sqlite3 with kept statements and, for writers, transactions that take the lock when they begin. */
export function sqliteDialect(handles: readonly Database.Database[], begin: 'BEGIN IMMEDIATE' | 'BEGIN'): Dialect {
  return {
    createAdapter: () => new SqliteAdapter(),
    createDriver: () => new PooledDriver(handles, begin),
    createIntrospector: (db) => new SqliteIntrospector(db),
    createQueryCompiler: () => new SqliteQueryCompiler(),
  };
}
