import Database from 'better-sqlite3';
import { rmSync } from 'node:fs';

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
