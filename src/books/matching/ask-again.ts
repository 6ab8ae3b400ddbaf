import { sql } from 'kysely';
import type { CommandContext } from '../command';
import { refreshDoubled } from '../doubled/find';
import type { Writing } from '../store';
import { refreshDeep } from './deep';

/** Up to this many lines that wait, any change asks all of them again. */
const MOST = 3_000;
/** Above it, what is asked stands to what was posted: a posting of many asks many. */
const LINES_PER_DOCUMENT = 20;

/**
 * Asks again what explains the waiting lines, where receipts or invoices were posted, settled or taken back. Where a few
 * documents meet very many lines it asks none of them: what comes in or is confirmed next does, as far as it touches them. What
 * they explain of deposits that are booked to income already is looked for too.
 * @param documents how many were posted.
 */
export async function askAgain(tx: Writing, { dryRun }: CommandContext, documents = 1): Promise<void> {
  if (dryRun) return;
  const most = Math.max(MOST, documents * LINES_PER_DOCUMENT);
  const { rows } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM (SELECT 1 FROM proposal WHERE certainty IN ('none', 'not-due') OR deep = 1 LIMIT ${most + 1})
  `.execute(tx.db);
  const waiting = rows[0]!.n;
  if (waiting > 0 && waiting <= most) await refreshDeep(tx, null);
  await refreshDoubled(tx);
}
