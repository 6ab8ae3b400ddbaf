import { askAgain } from '../matching/ask-again';
import { plural } from '@/core/words';
import { sql } from 'kysely';
import { z } from 'zod';
import { done, refuse, type Command, type CommandContext, type Outcome, type Refusal } from '../command';
import type { Minor } from '@/core/money';
import { writeInvoices } from '../invoices/post';
import { asTheyWere, postAsBefore, standingBefore } from '../receipts/post-as-before';
import { journalsOf, receiptsToPost, writeReceipts, type ReceiptsToPost } from '../receipts/write-receipts';
import type { Reading, Writing } from '../store';
import { balanceMoves } from './balances';
import { JournalWriter, type PlannedJournal } from './journal-writer';
import { entryView, PostingReport, type Posting } from './posting';
import { journalLines } from './entry-view';
import { writeReversals } from './reversals';

const range = z.object({ from: z.number().int(), to: z.number().int() });
type Range = z.infer<typeof range>;

const amount = z.custom<Minor>((value) => Number.isSafeInteger(value), 'an amount');
/** These reversals, and how the receipts stood before them, as far as that was kept. */
const reversed = range.extend({
  before: z
    .array(
      z.object({
        receipt: z.number().int(),
        journal: z.number().int(),
        notHeld: amount,
        carried: amount.nullable(),
        madeOf: z.string(),
      }),
    )
    .default([]),
});

interface Standing {
  readonly id: number;
  readonly kind: 'invoice' | 'receipt' | 'summary';
  readonly source: number;
}

/**
 * What of invoices, receipts and daily summaries stands in these journals and is not reversed. Of a receipt that was posted again
 * since, by the map or as it was before, the entry that stands now is meant: there is one at a time.
 */
async function posted(db: Reading, { from, to }: Range): Promise<Standing[]> {
  const { rows } = await sql<Standing>`
    SELECT s.id, s.source_kind AS kind, s.source_id AS source FROM journal j JOIN journal s
      ON s.source_kind = j.source_kind AND s.source_id = j.source_id AND (s.id = j.id OR j.source_kind = 'receipt')
    WHERE j.id BETWEEN ${from} AND ${to} AND j.source_kind IN ('invoice', 'receipt', 'summary') AND j.reverses_id IS NULL
      AND s.reverses_id IS NULL AND NOT EXISTS (SELECT 1 FROM journal r WHERE r.reverses_id = s.id)
    GROUP BY s.id ORDER BY s.id
  `.execute(db);
  return rows;
}

/** An invoice among these that something was paid of which is not given back with it. */
async function paidInvoice(db: Reading, journals: readonly Standing[]): Promise<Refusal | null> {
  const taken = sql`(SELECT value FROM json_each(${JSON.stringify(journals.map(({ id }) => id))}))`;
  // Receipts that are reversed together with their invoice give back first, so only what stays counts.
  const { rows } = await sql<{ number: string; paid: number; currency: string }>`
    SELECT i.number, i.paid + coalesce((
      SELECT sum(e.amount) FROM invoice_entry e
      WHERE e.invoice_id = i.id AND e.kind <> 'issued' AND e.journal_id IN ${taken}), 0) AS paid, i.currency
    FROM journal j JOIN invoice i ON i.id = j.source_id AND i.journal_id = j.id
    WHERE j.id IN ${taken} AND j.source_kind = 'invoice' AND i.paid <> 0
  `.execute(db);
  const paid = rows.find((row) => row.paid !== 0);
  return paid
    ? { code: 'invoice-has-receipts', invoice: paid.number, paid: paid.paid as never, currency: paid.currency }
    : null;
}

/** An invoice that was issued here is corrected or credited; its posting is not taken back by itself. */
async function ownInvoice(db: Reading, { from, to }: Range): Promise<Refusal | null> {
  const row = await db
    .selectFrom('invoice')
    .select('number')
    .where('journal_id', '>=', from)
    .where('journal_id', '<=', to)
    .where('own', '=', 1)
    .executeTakeFirst();
  return row ? { code: 'issued-here', invoice: row.number } : null;
}

/** Writes the opposite of these journals and takes them off their documents; gives the report and its undo. */
async function reverseJournals(
  tx: Writing,
  journals: readonly { readonly id: number; readonly kind: string; readonly source: number }[],
  context: CommandContext,
): Promise<Outcome<Posting>> {
  const { db } = tx;
  const before = await standingBefore(
    tx,
    journals.map(({ id }) => id),
  );
  const writer = await JournalWriter.open(tx, context);
  const written = await writeReversals(
    tx,
    writer,
    journals.map((journal) => journal.id),
    context.progress,
  );
  const reversed = sql`(SELECT value FROM json_each(${JSON.stringify(journals.map((journal) => journal.id))}))`;
  await sql`UPDATE receipt SET journal_id = NULL, carried = NULL WHERE journal_id IN ${reversed}`.execute(db);
  const invoices = journals.flatMap((journal) => (journal.kind === 'invoice' ? [journal.source] : []));
  await sql`
      UPDATE invoice SET journal_id = NULL WHERE id IN (SELECT value FROM json_each(${JSON.stringify(invoices)}))
    `.execute(db);
  const moves = await balanceMoves(db, await writer.finish());
  await askAgain(tx, context);
  const n = journals.length;
  const first = await db
    .selectFrom('journal')
    .select(['book_date as date', 'memo'])
    .where('id', '=', written.from)
    .executeTakeFirstOrThrow();
  const value: Posting = {
    posted: n,
    gross: 0 as never,
    notPostedCount: 0,
    notPosted: [],
    entry: n === 1 ? await entryView(db, { ...first, lines: await journalLines(db, written.from) }, moves) : null,
    moves,
    journals: written,
  };
  const what = n === 1 ? first.memo.replace('Reversal: ', '') : `${n} entries`;
  return done(value, `Reversed ${what}`, {
    command: 'post-again',
    input: { ...written, before },
    label: `post ${what} again`,
  });
}

/** Reverses posted invoices and receipts by opposite entries (recipe 25); they can then be posted again. */
export const reverse: Command<Range, Posting> = {
  name: 'reverse',
  input: range,
  async run(tx, input, context) {
    const journals = await posted(tx.db, input);
    if (journals.length === 0) return refuse({ code: 'not-posted', what: 'journal', name: String(input.from) });
    const paid = (await ownInvoice(tx.db, input)) ?? (await paidInvoice(tx.db, journals));
    return paid ? refuse(paid) : reverseJournals(tx, journals, context);
  },
};

/**
 * Reverses the entries of the receipts named, or of all that a filter shows and that are posted. The entry of a day is
 * reversed whole, with all its receipts.
 */
export const reverseReceipts: Command<ReceiptsToPost, Posting> = {
  name: 'reverse-receipts',
  input: receiptsToPost,
  async run(tx, what, context) {
    const journals = await journalsOf(tx.db, what);
    if (journals.length === 0) return refuse({ code: 'not-posted', what: 'receipt', name: 'of these' });
    return reverseJournals(tx, journals, context);
  },
};

/** What is not posted of the days of these summaries. */
async function receiptsOfDays(db: Reading, summaries: readonly number[]): Promise<number[]> {
  if (summaries.length === 0) return [];
  const { rows } = await sql<{ id: number }>`
    SELECT DISTINCT r.id FROM summary s
    JOIN receipt r ON r.channel_id = s.channel_id AND r.site_id IS s.site_id AND r.book_date = s.book_date
    WHERE s.id IN (SELECT value FROM json_each(${JSON.stringify(summaries)})) AND r.journal_id IS NULL AND r.aside IS NULL
    ORDER BY r.id
  `.execute(db);
  return rows.map((row) => row.id);
}

/**
 * Posts again what these reversals took out: receipts as they were, whatever the map says now, as long as nothing of them or of
 * what they paid has changed since; all else as it is posted today.
 */
export const postAgain: Command<z.input<typeof reversed>, Posting> = {
  name: 'post-again',
  input: reversed as z.ZodType<z.input<typeof reversed>>,
  async run(tx, input, context) {
    const { from, to, before } = reversed.parse(input);
    const { rows } = await sql<{ kind: string; source: number }>`
      SELECT o.source_kind AS kind, o.source_id AS source FROM journal r JOIN journal o ON o.id = r.reverses_id
      WHERE r.id BETWEEN ${from} AND ${to} ORDER BY o.id
    `.execute(tx.db);
    const of = (kind: string) => rows.filter((row) => row.kind === kind).map((row) => row.source);
    const writer = await JournalWriter.open(tx, context);
    const report = new PostingReport(writer);
    await writeInvoices(tx, { ids: of('invoice') }, context, report);
    const same = await asTheyWere(tx, before);
    const grossOf = new Map(same.map(({ receipt, madeOf }) => [receipt, (JSON.parse(madeOf) as [Minor])[0]]));
    const into = {
      write: (journal: PlannedJournal, receipt: number) => report.post(journal, grossOf.get(receipt)!),
      flush: () => report.flush(),
    };
    await postAsBefore(tx, into, same);
    const asBefore = new Set(same.map(({ receipt }) => receipt));
    await writeReceipts(
      tx,
      { ids: [...of('receipt').filter((id) => !asBefore.has(id)), ...(await receiptsOfDays(tx.db, of('summary')))] },
      context,
      writer,
      report,
    );
    const posting = await report.finish(tx.db);
    if (posting.posted === 0) {
      return refuse(posting.notPosted[0]?.refusal ?? { code: 'nothing-to-undo' });
    }
    await askAgain(tx, context);
    const what = plural(posting.posted, 'entry', 'entries');
    return done(posting, `Posted ${what} again`, {
      command: 'reverse',
      input: posting.journals,
      label: `reverse ${what}`,
    });
  },
};
