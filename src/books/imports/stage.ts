import type Database from 'better-sqlite3';
import { sql } from 'kysely';
import type { Finding } from '@/formats/finding';
import type { Reading } from '../store';

/** Findings shown and kept in full; the rest is counted. */
const FINDINGS_KEPT = 500;

export type StageRow = (...cells: (string | number | null)[]) => void;

/** Temporary tables for one file: gone with the connection, never part of the books. */
export class Stage {
  private readonly finding: StageRow;

  constructor(private readonly handle: Database.Database) {
    this.table(
      'stage_finding',
      'line INTEGER, scope TEXT NOT NULL, code TEXT NOT NULL, subject TEXT, field TEXT, expected TEXT, found TEXT',
    );
    this.finding = this.inserter('stage_finding', 7);
  }

  table(name: string, columns: string): void {
    this.handle.exec(`DROP TABLE IF EXISTS temp.${name}; CREATE TEMP TABLE ${name} (${columns}) STRICT`);
  }

  index(table: string, columns: string): void {
    this.handle.exec(`CREATE INDEX temp.${table}_by_${columns.replace(/\W+/g, '_')} ON ${table} (${columns})`);
  }

  inserter(table: string, columns: number): StageRow {
    const statement = this.handle.prepare(
      `INSERT INTO temp.${table} VALUES (${Array.from({ length: columns }, () => '?').join(', ')})`,
    );
    return (...cells) => void statement.run(cells);
  }

  find({ line, scope, code, subject, field, expected, found }: Finding): void {
    this.finding(line, scope, code, subject ?? null, field ?? null, expected ?? null, found ?? null);
  }

  /** Staged rows are written in one temporary transaction, which takes no lock on the books. */
  async filling<T>(fill: () => Promise<T>): Promise<T> {
    this.handle.exec('BEGIN');
    try {
      const result = await fill();
      this.handle.exec('COMMIT');
      return result;
    } catch (error) {
      this.handle.exec('ROLLBACK');
      throw error;
    }
  }
}

/** The refusal of the whole file, if there is one. */
export async function fileFinding(db: Reading): Promise<Finding | null> {
  const { rows } = await sql<Finding>`
    SELECT line, scope, code, subject, field, expected, found FROM temp.stage_finding WHERE scope = 'file' LIMIT 1
  `.execute(db);
  return rows[0] ?? null;
}

export async function recordFindings(db: Reading): Promise<Finding[]> {
  const { rows } = await sql<Finding>`
    SELECT line, scope, code, subject, field, expected, found FROM temp.stage_finding
    WHERE scope = 'record' ORDER BY line LIMIT ${FINDINGS_KEPT}
  `.execute(db);
  return rows;
}

export async function countFindings(db: Reading): Promise<number> {
  const { rows } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM temp.stage_finding WHERE scope = 'record'
  `.execute(db);
  return rows[0]!.n;
}
