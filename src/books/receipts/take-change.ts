import { sql } from 'kysely';
import { z } from 'zod';
import type { Minor } from '@/core/money';
import { done, refuse, type Command, type CommandContext } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { JournalWriter } from '../ledger/journal-writer';
import { PostingReport, type Posting } from '../ledger/posting';
import { reverseOwnEntries } from '../map/repost';
import type { Reading, ReceiptChangeTable, Writing } from '../store';
import { postAsBefore, postedNow } from './post-as-before';
import { shapeHere } from './judge';
import { totalPayouts } from './staged';
import { writeReceipts } from './write-receipts';

/** What the source says now of a receipt, and what stands in the books. Minor units. */
export type ChangeSince = Omit<ReceiptChangeTable, 'receipt_id' | 'run_id' | 'shape'> & { readonly file: string };

export async function changeSince(db: Reading, receipt: number): Promise<ChangeSince | null> {
  const row = await db
    .selectFrom('receipt_change')
    .innerJoin('run', 'run.id', 'receipt_change.run_id')
    .select(['receipt_change.kind', 'gross', 'tip', 'fee', 'occurred_at', 'book_date', 'run.file_name as file'])
    .where('receipt_id', '=', receipt)
    .executeTakeFirst();
  return row ?? null;
}

type Figures = Omit<ReceiptChangeTable, 'receipt_id' | 'run_id'>;

/** The lines and tenders of a receipt from the text they are kept in beside it. */
async function setShape(db: Reading, receipt: number, shape: string): Promise<void> {
  await db.deleteFrom('receipt_line').where('receipt_id', '=', receipt).execute();
  await db.deleteFrom('receipt_tender').where('receipt_id', '=', receipt).execute();
  await sql`
    INSERT INTO receipt_line (receipt_id, line_no, item_id, description, units, gross, discount, tax)
    SELECT ${receipt}, l.key + 1, i.id, l.value ->> 1, l.value ->> 2, l.value ->> 3, l.value ->> 4, l.value ->> 5
    FROM json_each(${shape} -> 0) AS l LEFT JOIN item i ON i.code = l.value ->> 0
  `.execute(db);
  await sql`
    INSERT INTO receipt_tender (receipt_id, tender, amount)
    SELECT ${receipt}, value ->> 0, value ->> 1 FROM json_each(${shape} -> 1)
  `.execute(db);
}

/** Gives a receipt other figures, and keeps those it had as what the source says otherwise, or not at all. */
async function exchange(tx: Writing, id: number, to: Figures, keep: number | null): Promise<Figures> {
  const { db } = tx;
  const receipt = await db.selectFrom('receipt').selectAll().where('id', '=', id).executeTakeFirstOrThrow();
  const { kind, gross, tip, fee, occurred_at, book_date } = receipt;
  const shape = to.shape === null ? null : await shapeHere(db, id);
  const was: Figures = { kind, gross, tip, fee, occurred_at, book_date, shape };
  const { shape: next, ...figures } = to;
  await db.updateTable('receipt').set(figures).where('id', '=', id).execute();
  if (next !== null) await setShape(db, id, next);
  await db.deleteFrom('receipt_change').where('receipt_id', '=', id).execute();
  if (keep !== null) {
    await db
      .insertInto('receipt_change')
      .values({ ...was, receipt_id: id, run_id: keep })
      .execute();
  }
  if (receipt.payout_id !== null) await totalPayouts(db, sql`SELECT ${receipt.payout_id} AS id`);
  return was;
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
    const receipt = await db.selectFrom('receipt').select('external_id').where('id', '=', id).executeTakeFirst();
    if (!receipt || !change) return refuse({ code: 'not-found', what: 'change of receipt', id: String(id) });
    const { receipt_id: _receipt, run_id: run, ...figures } = change;
    const writer = await JournalWriter.open(tx, context);
    const [before] = await postedNow(tx, [id]);
    if (before) {
      const refused = await reverseOwnEntries(tx, writer, [id]);
      if (refused) return refuse(refused);
    }
    const was = await exchange(tx, id, figures, null);
    const name = receipt.external_id;
    const undo = {
      command: 'give-change-back',
      input: { receipt: id, figures: was, run, before: before ?? null },
      label: `put the figures of ${name} back`,
    };
    if (!before) return done(null, `Took over what changed of receipt ${name}`, undo);
    const posting = await postAgain(tx, id, writer, context);
    if (posting.notPosted[0]) return refuse(posting.notPosted[0].refusal);
    return done(posting, `Reversed receipt ${name} and posted it again with its new figures`, undo);
  },
};

async function postAgain(tx: Writing, id: number, writer: JournalWriter, context: CommandContext): Promise<Posting> {
  const report = new PostingReport(writer);
  await writeReceipts(tx, { ids: [id] }, context, writer, report);
  return report.finish(tx.db);
}

const minorInput = z.custom<Minor>((value) => Number.isSafeInteger(value), 'an amount');
const figuresInput = z.object({
  kind: z.enum(['receipt', 'refund', 'chargeback']),
  gross: minorInput,
  tip: minorInput,
  fee: minorInput.nullable(),
  occurred_at: z.string(),
  book_date: plainDateInput,
  shape: z.string().nullable(),
});
const beforeInput = z.object({
  receipt: z.number().int(),
  journal: z.number().int(),
  notHeld: minorInput,
  carried: minorInput.nullable(),
});

interface GiveBack {
  receipt: number;
  figures: Figures;
  run: number;
  before: z.infer<typeof beforeInput> | null;
}

/** Puts the figures back that a receipt had before its change was taken over; the change waits beside it again. */
export const giveChangeBack: Command<GiveBack, null> = {
  name: 'give-change-back',
  input: z.object({
    receipt: z.number().int(),
    figures: figuresInput,
    run: z.number().int(),
    before: beforeInput.nullable(),
  }),
  async run(tx, { receipt: id, figures, run, before }, context) {
    const writer = await JournalWriter.open(tx, context);
    if ((await postedNow(tx, [id])).length > 0) {
      const refused = await reverseOwnEntries(tx, writer, [id]);
      if (refused) return refuse(refused);
    }
    await exchange(tx, id, figures, run);
    if (before) await postAsBefore(tx, writer, [before]);
    await writer.finish();
    return done(null, 'Put the figures of a receipt back', {
      command: 'take-change',
      input: { receipt: id },
      label: 'take its change over again',
    });
  },
};
