import { sql } from 'kysely';
import type { CommandContext } from '../command';
import type { Writing } from '../store';
import { refreshDeep } from './deep';

/** Above this many lines that wait, a posting does not ask all of them again; what comes in or is confirmed does. */
const MOST = 3_000;

/** Asks again what explains the waiting lines, where receipts or invoices were posted, settled or taken back. */
export async function askAgain(tx: Writing, { dryRun }: CommandContext): Promise<void> {
  if (dryRun) return;
  const { rows } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM (SELECT 1 FROM proposal WHERE certainty IN ('none', 'not-due') OR deep = 1 LIMIT ${MOST + 1})
  `.execute(tx.db);
  const waiting = rows[0]!.n;
  if (waiting > 0 && waiting <= MOST) await refreshDeep(tx, null);
}
