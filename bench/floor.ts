import Database from 'better-sqlite3';
import { copyFileSync, rmSync } from 'node:fs';

/**
 * The floor of a write: the rows that were written, put into tables of the same columns, keys and indexes by one
 * prepared insert each in one transaction, with the same durability, and nothing else: no reading, no parsing, no
 * triggers, no foreign keys. Milliseconds.
 */
export function rawInsert(source: string, folder: string, tables: Readonly<Record<string, string>>): number {
  const from = new Database(source, { readonly: true });
  const path = `${folder}/floor-${Object.keys(tables)[0]}.sqlite`;
  const to = new Database(path);
  to.pragma('journal_mode = WAL');
  to.pragma('synchronous = FULL');
  to.pragma('foreign_keys = OFF');
  to.pragma('cache_size = -65536');
  const rows = Object.entries(tables).map(([table, where]) => {
    const objects = from
      .prepare(
        "SELECT sql FROM sqlite_master WHERE tbl_name = ? AND type IN ('table', 'index') AND sql IS NOT NULL ORDER BY type DESC",
      )
      .all(table) as { sql: string }[];
    for (const { sql } of objects) to.exec(sql);
    return { table, rows: from.prepare(`SELECT * FROM ${table} WHERE ${where}`).raw().all() as unknown[][] };
  });
  from.close();
  const start = performance.now();
  to.exec('BEGIN');
  for (const { table, rows: list } of rows) {
    const insert = to.prepare(`INSERT INTO ${table} VALUES (${(list[0] ?? []).map(() => '?').join(', ')})`);
    for (const row of list) insert.run(row);
  }
  to.exec('COMMIT');
  const took = performance.now() - start;
  to.close();
  rmSync(path);
  return took;
}

/** Rows of a table that a change set a column of, or took out, told by their keys; and tables of which it set whole rows. */
export interface Altered {
  readonly set: Readonly<Record<string, { readonly column: string; readonly where: string }>>;
  readonly gone: Readonly<Record<string, string>>;
  readonly rows: readonly string[];
}

/**
 * The floor of a change that also sets and deletes: on a copy of the books before it, without triggers and foreign keys, each
 * row that it wrote by one prepared statement, in one transaction with the same durability. Milliseconds.
 */
export function rawChange(
  before: string,
  after: string,
  folder: string,
  tables: Readonly<Record<string, string>>,
  { set, gone, rows: whole }: Altered,
): number {
  const path = `${folder}/floor-change.sqlite`;
  copyFileSync(before, path);
  const to = new Database(path);
  to.pragma('journal_mode = WAL');
  to.pragma('synchronous = FULL');
  to.pragma('foreign_keys = OFF');
  to.pragma('cache_size = -65536');
  const triggers = to.prepare("SELECT name FROM sqlite_master WHERE type = 'trigger'").pluck().all() as string[];
  for (const name of triggers) to.exec(`DROP TRIGGER ${name}`);
  const from = new Database(after, { readonly: true });
  const all = (sql: string) => from.prepare(sql).raw().all() as unknown[][];
  const steps: { readonly sql: string; readonly rows: unknown[][] }[] = [];
  for (const [table, where] of Object.entries(tables)) {
    const rows = all(`SELECT * FROM ${table} WHERE ${where}`);
    steps.push({ sql: `INSERT INTO ${table} VALUES (${(rows[0] ?? []).map(() => '?').join(', ')})`, rows });
  }
  for (const [table, { column, where }] of Object.entries(set)) {
    const rows = all(`SELECT ${column}, id FROM ${table} WHERE ${where}`);
    steps.push({ sql: `UPDATE ${table} SET ${column} = ? WHERE id = ?`, rows });
  }
  for (const [table, key] of Object.entries(gone)) {
    const there = new Set(all(`SELECT DISTINCT ${key} FROM ${table}`).map(([id]) => id));
    const rows = (to.prepare(`SELECT DISTINCT ${key} FROM ${table}`).raw().all() as unknown[][]).filter(
      ([id]) => !there.has(id),
    );
    steps.push({ sql: `DELETE FROM ${table} WHERE ${key} = ?`, rows });
  }
  for (const table of whole) {
    const before = new Set(
      (to.prepare(`SELECT * FROM ${table}`).raw().all() as unknown[][]).map((row) => JSON.stringify(row)),
    );
    const rows = all(`SELECT * FROM ${table}`).filter((row) => !before.has(JSON.stringify(row)));
    steps.push({ sql: `REPLACE INTO ${table} VALUES (${(rows[0] ?? []).map(() => '?').join(', ')})`, rows });
  }
  from.close();
  const start = performance.now();
  to.exec('BEGIN');
  for (const { sql, rows } of steps) {
    if (rows.length === 0) continue;
    const statement = to.prepare(sql);
    for (const row of rows) statement.run(row);
  }
  to.exec('COMMIT');
  const took = performance.now() - start;
  to.close();
  rmSync(path);
  return took;
}
