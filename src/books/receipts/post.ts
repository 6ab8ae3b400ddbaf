import { sql } from 'kysely';
import { z } from 'zod';
import type { Minor } from '@/core/money';
import { formatAmount } from '@/core/money';
import { Cancelled, done, refuse, type Command, type CommandContext, type Outcome } from '../command';
import { JournalWriter } from '../ledger/journal-writer';
import { pairs, PostingReport, type Posting } from '../ledger/posting';
import type { Reading, Writing } from '../store';
import { filterReceipts, receiptFilter, type ReceiptFilter } from './filter';
import { ReceiptPlanner } from './plan';

const BATCH = 2_000;

/** Either the receipts named, or all that a filter shows. */
export const receiptsToPost = z.union([
  z.object({ ids: z.array(z.number().int()).min(1).max(10_000) }),
  z.object({ filter: receiptFilter }),
]);
export type ReceiptsToPost = z.infer<typeof receiptsToPost>;

function filtered(db: Reading, filter: ReceiptFilter) {
  return filterReceipts(
    db
      .selectFrom('receipt')
      .leftJoin('payout', 'payout.id', 'receipt.payout_id')
      .leftJoin('payer', 'payer.id', 'receipt.payer_id')
      .where('receipt.journal_id', 'is', null),
    filter,
  );
}

/** The receipts to post a batch at a time: as named, or day by day. */
async function* batches(db: Reading, what: ReceiptsToPost): AsyncGenerator<readonly number[]> {
  if ('ids' in what) {
    for (let at = 0; at < what.ids.length; at += BATCH) yield what.ids.slice(at, at + BATCH);
    return;
  }
  // In the order of the index on what is not posted: each batch begins where the one before ended.
  for (let after: { book_date: string; id: number } | null = null; ;) {
    let query = filtered(db, what.filter).select(['receipt.id', 'receipt.book_date']);
    if (after) query = query.where(sql<boolean>`(receipt.book_date, receipt.id) > (${after.book_date}, ${after.id})`);
    const rows: { id: number; book_date: string }[] = await query
      .orderBy('receipt.book_date')
      .orderBy('receipt.id')
      .limit(BATCH)
      .execute();
    if (rows.length === 0) return;
    after = rows.at(-1)!;
    yield rows.map((row) => row.id);
  }
}

async function countOf(db: Reading, what: ReceiptsToPost): Promise<number> {
  if ('ids' in what) return what.ids.length;
  const { n } = await filtered(db, what.filter)
    .select((e) => e.fn.countAll<number>().as('n'))
    .executeTakeFirstOrThrow();
  return n;
}

/** Writes the entries of these receipts, batch by batch and set-based. */
export async function writeReceipts(
  tx: Writing,
  what: ReceiptsToPost,
  context: CommandContext,
  writer: JournalWriter,
  report: PostingReport,
): Promise<void> {
  const { db } = tx;
  const planner = await ReceiptPlanner.open(db);
  const allocations = tx.bulk('allocation', ['invoice_id', 'journal_id', 'amount']);
  const total = await countOf(db, what);
  let looked = 0;
  for await (const ids of batches(db, what)) {
    const journals: [number, number][] = [];
    const settled: { readonly invoice: number; readonly journal: number; readonly amount: Minor }[] = [];
    for (const plan of await planner.plan(db, ids)) {
      if ('refusal' in plan) {
        report.leave(plan.name, plan.refusal);
        continue;
      }
      const journal = report.post(
        {
          date: plan.date,
          source: { kind: 'receipt', id: plan.id, revision: plan.revision },
          memo: plan.memo,
          lines: plan.entry.lines,
        },
        plan.gross,
      );
      journals.push([plan.id, journal]);
      if (plan.settles) settled.push({ ...plan.settles, journal });
    }
    writer.flush();
    for (const { invoice, journal, amount } of settled) allocations.add(invoice, journal, amount);
    allocations.flush();
    await sql`
      UPDATE receipt SET journal_id = t.b, revision = revision + 1 FROM ${pairs(journals)} AS t WHERE receipt.id = t.a
    `.execute(db);
    if (settled.length > 0) {
      await sql`
        UPDATE invoice SET paid = paid + t.amount
        FROM (SELECT a, sum(b) AS amount FROM ${pairs(settled.map(({ invoice, amount }) => [invoice, amount]))} GROUP BY a) AS t WHERE invoice.id = t.a
      `.execute(db);
    }
    looked += ids.length;
    context.progress.report('Posting receipts', looked, total);
    if (context.progress.cancelled) throw new Cancelled();
  }
}

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
