import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { plural } from '@/core/words';
import { asideAgain } from '../command/aside-again';
import { done, refuse, type Command } from '../command';
import { forgetProposals } from '../matching/keep-proposals';
import { refreshProposals } from '../matching/proposals';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

const ids = z.array(z.number().int()).min(1).max(50_000);
const counted = (n: number) => plural(n, 'statement line');
const these = (list: readonly number[]) => sql`(SELECT value FROM json_each(${JSON.stringify(list)}))`;

/** Amounts and days of lines: what is asked again because of them. */
async function touchedBy(db: Reading, list: readonly number[]): Promise<{ amounts: Minor[]; days: PlainDate[] }> {
  const { rows } = await sql<{ amount: Minor; day: PlainDate }>`
    SELECT amount, book_date AS day FROM statement_line WHERE id IN ${these(list)}
  `.execute(db);
  return { amounts: rows.map(({ amount }) => amount), days: rows.map(({ day }) => day) };
}

/**
 * Says of statement lines that nothing is to be explained of them here, and why: money that these books do not keep. They stay
 * in the list and in the bank's own balance, and stand in the proof as what they are.
 */
export const setLinesAside: Command<{ ids: number[]; reason: string }, { count: number }> = {
  name: 'set-lines-aside',
  input: z.object({ ids, reason: z.string().trim().min(1).max(200) }),
  async run(tx, { ids: list, reason }) {
    const { db } = tx;
    const taken = await sql<{ date: never; text: string; by: string }>`
      SELECT l.book_date AS date, l.text, m.actor AS by FROM statement_line l JOIN match m ON m.id = l.match_id
      WHERE l.id IN ${these(list)} LIMIT 1
    `.execute(db);
    if (taken.rows[0]) return refuse({ code: 'line-taken', ...taken.rows[0] });
    const { rows } = await sql<{ id: number }>`
      UPDATE statement_line SET aside = ${reason} WHERE id IN ${these(list)} AND aside IS NULL RETURNING id
    `.execute(db);
    if (rows.length === 0) return done({ count: 0 }, null);
    const changed = rows.map(({ id }) => id);
    await forgetProposals(db, sql`SELECT value FROM json_each(${JSON.stringify(changed)})`);
    await refreshProposals(tx, {
      ...(await touchedBy(db, changed)),
      gone: { payouts: [], receipts: [], invoices: [], lines: changed },
    });
    return done({ count: changed.length }, `Set ${counted(changed.length)} aside: ${reason}`, {
      command: 'take-lines-back',
      input: { ids: changed },
      label: `take ${counted(changed.length)} back`,
    });
  },
};

/** Takes statement lines back that were set aside: they are to be explained again. */
export const takeLinesBack: Command<{ ids: number[] }, { count: number }> = {
  name: 'take-lines-back',
  input: z.object({ ids }),
  async run(tx, { ids: list }) {
    const { db } = tx;
    const { rows: before } = await sql<{ id: number; reason: string }>`
      SELECT id, aside AS reason FROM statement_line WHERE id IN ${these(list)} AND aside IS NOT NULL
    `.execute(db);
    if (before.length === 0) return done({ count: 0 }, null);
    await sql`UPDATE statement_line SET aside = NULL WHERE id IN ${these(before.map(({ id }) => id))}`.execute(db);
    await refreshProposals(tx, await touchedBy(db, list));
    const undo = asideAgain('set-lines-aside', before, `set ${counted(before.length)} aside again`);
    return done({ count: before.length }, `Took ${counted(before.length)} back`, undo);
  },
};
