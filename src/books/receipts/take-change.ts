import { sql } from 'kysely';
import { z } from 'zod';
import { done, refuse, type Command } from '../command';
import { JournalWriter } from '../ledger/journal-writer';
import { PostingReport, type Posting } from '../ledger/posting';
import { reverseReceipts } from '../map/repost';
import type { Reading, ReceiptChangeTable } from '../store';
import { totalPayouts } from './staged';
import { writeReceipts } from './write-receipts';

/** What the source says now of a receipt, and what stands in the books. Minor units. */
export type ChangeSince = Omit<ReceiptChangeTable, 'receipt_id' | 'run_id'> & { readonly file: string };

export async function changeSince(db: Reading, receipt: number): Promise<ChangeSince | null> {
  const row = await db
    .selectFrom('receipt_change')
    .innerJoin('run', 'run.id', 'receipt_change.run_id')
    .select(['receipt_change.kind', 'gross', 'tip', 'fee', 'occurred_at', 'book_date', 'run.file_name as file'])
    .where('receipt_id', '=', receipt)
    .executeTakeFirst();
  return row ?? null;
}

/**
 * Takes over what the source says now of a receipt. One that is posted is reversed, and posted again with the new
 * figures, in the same change.
 */
export const takeChange: Command<{ receipt: number }, Posting | null> = {
  name: 'take-change',
  input: z.object({ receipt: z.number().int() }),
  async run(tx, { receipt: id }, context) {
    const { db } = tx;
    const change = await db.selectFrom('receipt_change').selectAll().where('receipt_id', '=', id).executeTakeFirst();
    const receipt = await db.selectFrom('receipt').selectAll().where('id', '=', id).executeTakeFirst();
    if (!receipt || !change) return refuse({ code: 'not-found', what: 'change of receipt', id: String(id) });
    const writer = await JournalWriter.open(tx, context);
    const posted = receipt.journal_id !== null;
    if (posted) {
      const refused = await reverseReceipts(tx, writer, [id]);
      if (refused) return refuse(refused);
    }
    const { kind, gross, tip, fee, occurred_at, book_date } = change;
    await db
      .updateTable('receipt')
      .set({ kind, gross, tip, fee, occurred_at, book_date })
      .where('id', '=', id)
      .execute();
    await db.deleteFrom('receipt_change').where('receipt_id', '=', id).execute();
    if (receipt.payout_id !== null) await totalPayouts(db, sql`SELECT ${receipt.payout_id} AS id`);
    const name = receipt.external_id;
    if (!posted) return done(null, `Took over what changed of receipt ${name}`);
    const report = new PostingReport(writer);
    await writeReceipts(tx, { ids: [id] }, context, writer, report);
    const posting = await report.finish(db);
    if (posting.notPosted[0]) return refuse(posting.notPosted[0].refusal);
    return done(posting, `Reversed receipt ${name} and posted it again with its new figures`);
  },
};
