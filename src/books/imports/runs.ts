import type { Finding } from '@/formats/finding';
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
