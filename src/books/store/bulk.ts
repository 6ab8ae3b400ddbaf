import type Database from 'better-sqlite3';
import type { BooksSchema } from './schema';

type Cell = string | number | null;

/** Inserts one row; the cells stand in the order of the columns named when it was made. */
export type InsertRow = (...cells: Cell[]) => void;

/**
 * A prepared insert for bulk work inside a transaction: compiling a statement per batch would cost more than the rows.
 * Table and columns are checked against the schema; the cells are checked by the STRICT tables.
 */
export function bulkInsert<T extends keyof BooksSchema>(
  handle: Database.Database,
  table: T,
  columns: readonly (keyof BooksSchema[T] & string)[],
): InsertRow {
  const statement = handle.prepare(
    `INSERT INTO ${table} (${columns.join(', ')}) VALUES (${columns.map(() => '?').join(', ')})`,
  );
  return (...cells) => void statement.run(cells);
}
