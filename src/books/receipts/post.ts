import { askAgain } from '../matching/ask-again';
import type { Minor } from '@/core/money';
import { formatAmount } from '@/core/money';
import { done, refuse, type Command, type Outcome } from '../command';
import { JournalWriter } from '../ledger/journal-writer';
import { PostingReport, type Posting } from '../ledger/posting';
import type { Reading } from '../store';
import { receiptsToPost, writeReceipts, type ReceiptsToPost } from './write-receipts';

/** How a posting command ends: with its report, or with the refusal of the one thing that was asked for by name. */
export function postingOutcome(
  posting: Posting,
  byName: boolean,
  noun: string,
  plural: string,
  amount: string,
): Outcome<Posting> {
  if (posting.posted === 0) {
    const first = posting.notPosted[0];
    if (byName && first && posting.notPostedCount === 1) return refuse(first.refusal);
    return done(posting, null);
  }
  const what = posting.posted === 1 ? `1 ${noun}` : `${posting.posted} ${plural}`;
  return done(posting, `Posted ${what}, ${amount}`, {
    command: 'reverse',
    input: posting.journals,
    label: `reverse ${what}`,
  });
}

/** Posts receipts and refunds: recipes 2, 3, 5, 6 and 7. What cannot be posted is left and named; the rest is posted. */
export const postReceipts: Command<ReceiptsToPost, Posting> = {
  name: 'post-receipts',
  input: receiptsToPost,
  async run(tx, what, context) {
    const writer = await JournalWriter.open(tx, context);
    const report = new PostingReport(writer);
    await writeReceipts(tx, what, context, writer, report);
    const posting = await report.finish(tx.db);
    await askAgain(tx, context, posting.posted);
    const { currency } = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    if (posting.posted === 0 && posting.notPostedCount === 0 && 'ids' in what) {
      return refuse({ code: 'already-posted', what: 'receipt', name: await namesOf(tx.db, what.ids) });
    }
    return postingOutcome(
      posting,
      'ids' in what,
      'receipt',
      'receipts',
      formatAmount(posting.gross as Minor, currency),
    );
  },
};

async function namesOf(db: Reading, ids: readonly number[]): Promise<string> {
  const rows = await db.selectFrom('receipt').select('external_id').where('id', 'in', ids.slice(0, 3)).execute();
  return rows.map((row) => row.external_id).join(', ') || String(ids[0]);
}
