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
  const one = handle.prepare(into + row);
  const width = columns.length;
  const many = handle.prepare(into + Array.from({ length: rows }, () => row).join(', '));
  let held: Cell[] = [];
  const flush = () => {
    for (let at = 0; at < held.length; at += width) one.run(held.slice(at, at + width));
    held = [];
  };
  return {
    add(...cells) {
      held.push(...cells);
      if (held.length === rows * width) {
        many.run(held);
        held = [];
      }
    },
    flush,
  };
}
