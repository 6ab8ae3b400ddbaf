import type { ByteSource, Finding } from '@/formats/finding';
import { refusedRows, type TableReading } from './refused-rows';
import type { Reading, RunKind } from '../store';

export interface RunRow {
  readonly id: number;
  readonly kind: RunKind;
  readonly file: string;
  readonly at: string;
  readonly actor: string;
  readonly added: number;
  readonly updated: number;
  readonly changed: number;
  readonly known: number;
  readonly refused: number;
  readonly undoneAt: string | null;
}

const RUNS_LISTED = 50;

/** The newest files brought in, of one kind or of all. */
export async function listRuns(db: Reading, kind?: RunKind): Promise<RunRow[]> {
  let query = db
    .selectFrom('run')
    .select([
      'id',
      'kind',
      'file_name as file',
      'started_at as at',
      'actor',
      'added',
      'updated',
      'changed',
      'known',
      'refused',
      'undone_at as undoneAt',
    ]);
  if (kind) query = query.where('kind', '=', kind);
  return query.orderBy('id', 'desc').limit(RUNS_LISTED).execute();
}

/** Every refused record of a run, in the order of the file. */
export async function runFindings(db: Reading, run: number): Promise<Finding[]> {
  const rows = await db
    .selectFrom('run_finding')
    .select('finding')
    .where('run_id', '=', run)
    .orderBy('finding_no')
    .execute();
  return rows.map((row) => JSON.parse(row.finding) as Finding);
}

/** The refused rows of a file that came in, each with its own cells and its reason; nothing where none were refused. */
export async function* refusedOfRun(
  db: Reading,
  run: number,
  fileBytes: (sha256: string) => ByteSource,
): AsyncGenerator<string> {
  const row = await db.selectFrom('run').select(['sha256', 'reading']).where('id', '=', run).executeTakeFirst();
  const findings = row === undefined ? [] : await runFindings(db, run);
  if (row === undefined || findings.length === 0) return;
  const reading = row.reading === '' ? null : (JSON.parse(row.reading) as TableReading);
  yield* refusedRows(() => fileBytes(row.sha256), reading, findings);
}
