import type Database from 'better-sqlite3';
import { sql } from 'kysely';
import type { Finding } from '@/formats/finding';
import { bulkInsert, type BulkInsert, type Reading } from '../store';

/** Findings shown in a report; the rest is counted, and handed back with its rows like these. */
const FINDINGS_SHOWN = 500;

/** Cells a statement puts into a staging table. */
const CELLS = 1_200;

export type StageRow = (...cells: (string | number | null)[]) => void;

/** Temporary tables for one file: gone with the connection, never part of the books. */
export class Stage {
  private readonly inserters: BulkInsert[] = [];
  private readonly finding: StageRow;

  constructor(private readonly handle: Database.Database) {
    this.finding = this.table(
      'stage_finding',
      'line INTEGER, scope TEXT NOT NULL, code TEXT NOT NULL, subject TEXT, field TEXT, expected TEXT, found TEXT, until INTEGER',
    );
  }

  /**
   * Makes a table, and gives what puts rows into it: a cell for each of its columns, in their order. One that is kept by
   * its key has rows that come in the order of it.
   */
  table(name: string, columns: string, kept: 'by rowid' | 'by key' = 'by rowid'): StageRow {
    const as = kept === 'by key' ? 'STRICT, WITHOUT ROWID' : 'STRICT';
    this.handle.exec(`DROP TABLE IF EXISTS temp.${name}; CREATE TEMP TABLE ${name} (${columns}) ${as}`);
    const names = this.handle.pragma(`temp.table_info(${name})`) as { name: string }[];
    const inserter = bulkInsert(
      this.handle,
      `temp.${name}`,
      names.map((column) => column.name),
      // Nothing refers to staged rows, so narrow ones can go many at a time.
      Math.max(1, Math.floor(CELLS / names.length)),
    );
    this.inserters.push(inserter);
    return (...cells) => inserter.add(...cells);
  }

  index(table: string, columns: string): void {
    this.handle.exec(`CREATE INDEX temp.${table}_by_${columns.replace(/\W+/g, '_')} ON ${table} (${columns})`);
  }

  find({ line, scope, code, subject, field, expected, found, until }: Finding): void {
    this.finding(line, scope, code, subject ?? null, field ?? null, expected ?? null, found ?? null, until ?? null);
  }

  /** Writes what is held back for the next full statement. */
  flush(): void {
    for (const inserter of this.inserters) inserter.flush();
  }

  /** Staged rows are written in one temporary transaction, which takes no lock on the books. */
  async filling<T>(fill: () => Promise<T>): Promise<T> {
    this.handle.exec('BEGIN');
    try {
      const result = await fill();
      this.flush();
      this.handle.exec('COMMIT');
      return result;
    } catch (error) {
      this.handle.exec('ROLLBACK');
      throw error;
    }
  }
}

/** Every refused record, in the order of the file. */
export const allFindings = (db: Reading): Promise<Finding[]> => recordFindings(db, -1);

/** The refusal of the whole file, if there is one. */
export async function fileFinding(db: Reading): Promise<Finding | null> {
  const { rows } = await sql<Finding>`
    SELECT line, scope, code, subject, field, expected, found FROM temp.stage_finding WHERE scope = 'file' LIMIT 1
  `.execute(db);
  return rows[0] ?? null;
}

export async function recordFindings(db: Reading, most = FINDINGS_SHOWN): Promise<Finding[]> {
  const { rows } = await sql<Finding>`
    SELECT line, scope, code, subject, field, expected, found, until FROM temp.stage_finding
    WHERE scope = 'record' ORDER BY line LIMIT ${most}
  `.execute(db);
  return rows;
}

export async function countFindings(db: Reading): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM temp.stage_finding WHERE scope = 'record'
  `.execute(db);
  return rows[0]!.n;
}
