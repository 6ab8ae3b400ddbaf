import { plural } from '@/core/words';
import { sql } from 'kysely';
import { z } from 'zod';
import { done, refuse, type Command } from '../command';
import { learnFeeSteps } from '../matching/learn-fee-steps';
import { refreshProposals } from '../matching/proposals';
import { totalPayouts } from '../receipts/staged';
import type { Reading, RunKind, Writing } from '../store';

const counted = (n: number, one: string, many: string) => (n === 0 ? [] : [plural(n, one, many)]);

/** What of this run something later rests on, in words; empty where it can be taken back. */
async function restingOn(db: Reading, run: number, kind: RunKind): Promise<string[]> {
  const one = async (query: ReturnType<typeof sql<{ n: number }>>) => (await query.execute(db)).rows[0]!.n;
  switch (kind) {
    case 'invoices':
      return counted(
        await one(sql`SELECT count(*) AS n FROM invoice WHERE run_id = ${run} AND revision > 0`),
        'of its invoices was posted',
        'of its invoices were posted',
      );
    case 'receipts':
    case 'by-hand':
      return [
        ...counted(
          await one(sql`SELECT count(*) AS n FROM receipt WHERE run_id = ${run} AND revision > 0`),
          'of its receipts was posted',
          'of its receipts were posted',
        ),
        ...counted(
          await one(sql`
            SELECT count(*) AS n FROM match_part WHERE kind = 'payout'
              AND ref_id IN (SELECT id FROM payout WHERE run_id = ${run})`),
          'of its payouts was matched',
          'of its payouts were matched',
        ),
      ];
    case 'statement':
      return counted(
        await one(sql`
          SELECT count(*) AS n FROM match_line
          WHERE live = 1 AND statement_line_id IN (SELECT id FROM statement_line WHERE run_id = ${run})`),
        'of its lines is matched',
        'of its lines are matched',
      );
  }
}

async function takeBack(tx: Writing, run: number, kind: RunKind): Promise<void> {
  const { db } = tx;
  switch (kind) {
    case 'invoices':
      await sql`
        UPDATE receipt SET invoice_id = NULL WHERE invoice_id IN (SELECT id FROM invoice WHERE run_id = ${run})
      `.execute(db);
      await db.deleteFrom('invoice').where('run_id', '=', run).execute();
      return;
    case 'receipts':
    case 'by-hand': {
      await sql`
        CREATE TEMP TABLE touched_payout AS
        SELECT DISTINCT payout_id AS id FROM receipt
        WHERE (run_id = ${run} OR payout_run_id = ${run}) AND payout_id IS NOT NULL
      `.execute(db);
      await sql`
        UPDATE receipt SET payout_id = NULL,
          payout_ref = CASE WHEN payout_run_id = ${run} THEN '' ELSE payout_ref END,
          payout_run_id = CASE WHEN payout_run_id = ${run} THEN NULL ELSE payout_run_id END
        WHERE payout_run_id = ${run} OR payout_id IN (SELECT id FROM payout WHERE run_id = ${run})
      `.execute(db);
      await db.deleteFrom('receipt_change').where('run_id', '=', run).execute();
      await db.deleteFrom('receipt').where('run_id', '=', run).execute();
      await db.deleteFrom('payout').where('run_id', '=', run).execute();
      await totalPayouts(db, sql`SELECT t.id FROM temp.touched_payout t JOIN payout p ON p.id = t.id`);
      await sql`DROP TABLE temp.touched_payout`.execute(db);
      const channels = await db.selectFrom('channel').select('id').execute();
      await learnFeeSteps(
        tx,
        channels.map(({ id }) => id),
      );
      await refreshProposals(tx, { all: true });
      return;
    }
    case 'statement':
      // What was matched and taken apart again is told by its two entries; the line itself goes.
      await sql`
        DELETE FROM match_line WHERE statement_line_id IN (SELECT id FROM statement_line WHERE run_id = ${run})
      `.execute(db);
      await db.deleteFrom('statement_line').where('run_id', '=', run).execute();
      await db.deleteFrom('statement').where('run_id', '=', run).execute();
      await refreshProposals(tx, { all: true });
  }
}

/** Takes a whole file back, as if it had never been brought in; its run stays in the log and says so. */
export const undoImport: Command<{ run: number }, { file: string }> = {
  name: 'undo-import',
  input: z.object({ run: z.number().int() }),
  async run(tx, { run: id }, { now }) {
    const run = await tx.db.selectFrom('run').selectAll().where('id', '=', id).executeTakeFirst();
    if (!run) return refuse({ code: 'not-found', what: 'file', id: String(id) });
    if (run.undone_at) return refuse({ code: 'import-undone', file: run.file_name });
    const on = await restingOn(tx.db, id, run.kind);
    if (on.length > 0) return refuse({ code: 'import-rested-on', of: run.kind, file: run.file_name, on });
    await takeBack(tx, id, run.kind);
    await tx.db.updateTable('run').set({ undone_at: now.toISOString() }).where('id', '=', id).execute();
    return done({ file: run.file_name }, `Took back ${run.file_name}`);
  },
};
