import type Database from 'better-sqlite3';

type Cell = string | number | null;

/** Inserts rows; the cells stand in the order of the columns named when it was made. */
export interface BulkInsert {
  add(...cells: Cell[]): void;
  /** Writes what is still held back; to be called before anything else reads the table, and at the end. */
  flush(): void;
}

/**
 * Rows per statement: each statement costs about as much as two rows of its own, which this spreads over many. The same for
 * every table of the books, so that rows which others refer to are written before those that refer to them.
 */
const ROWS = 40;

/** Statements of a handle by their text: a command that writes little would spend more on compiling them than on its rows. */
const prepared = new WeakMap<Database.Database, Map<string, Database.Statement>>();

function statementOf(handle: Database.Database, sql: string): Database.Statement {
  let own = prepared.get(handle);
  if (own === undefined) prepared.set(handle, (own = new Map()));
  let statement = own.get(sql);
  if (statement === undefined) own.set(sql, (statement = handle.prepare(sql)));
  return statement;
}

/**
 * A prepared insert for bulk work inside a transaction: compiling a statement per batch would cost more than the rows.
 * The cells are checked by the STRICT tables.
 */
export function bulkInsert(
  handle: Database.Database,
  table: string,
  columns: readonly string[],
  rows = ROWS,
): BulkInsert {
  const into = `INSERT INTO ${table} (${columns.join(', ')}) VALUES `;
  const row = `(${columns.map(() => '?').join(', ')})`;
  const width = columns.length;
  const whole = rows * width;
  const one = statementOf(handle, into + row);
  let many: Database.Statement | null = null;
  const held: Cell[] = new Array<Cell>(whole).fill(null);
  let count = 0;
  return {
    add(...cells) {
      for (let at = 0; at < width; at++) held[count++] = cells[at]!;
      if (count < whole) return;
      many ??= statementOf(handle, into + Array.from({ length: rows }, () => row).join(', '));
      many.run(held);
      count = 0;
    },
    flush() {
      for (let at = 0; at < count; at += width) one.run(held.slice(at, at + width));
      count = 0;
    },
  };
}
