import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';
import { plural } from '@/core/words';
import { done, refuse, type Command, type Progress } from '../command';
import { JournalWriter } from '../ledger/journal-writer';
import { PostingReport, type Posting } from '../ledger/posting';
import { writeReversals } from '../ledger/reversals';
import { ReceiptPlanner } from '../receipts/plan';
import { postAsBefore, postedNow, type PostedBefore } from '../receipts/post-as-before';
import { writeReceipts } from '../receipts/write-receipts';
import type { Reading, Writing } from '../store';
import { pastFrom, pastReceipts } from './past';

/** A line as it is compared: account, amount, and what it is booked under. */
export interface LandedLine {
  readonly account: AccountId;
  /** Minor units; a debit is positive. */
  readonly amount: Minor;
  readonly values: readonly number[];
}

/** A posted receipt that the map would book otherwise now: the lines that differ, before and after. */
export interface ToPostAgain {
  readonly id: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly gross: Minor;
  readonly before: readonly LandedLine[];
  readonly after: readonly LandedLine[];
}

export interface PostAgainList {
  readonly from: PlainDate;
  readonly count: number;
  readonly listed: readonly ToPostAgain[];
}

const LISTED = 200;

const keyOf = (line: LandedLine) => JSON.stringify([line.account, line.amount, line.values]);

/** Lines of the first that the second does not have, counting equal ones. */
function without(lines: readonly LandedLine[], others: readonly LandedLine[]): LandedLine[] {
  const left = new Map<string, number>();
  for (const other of others) left.set(keyOf(other), (left.get(keyOf(other)) ?? 0) + 1);
  return lines.filter((line) => {
    const n = left.get(keyOf(line)) ?? 0;
    if (n > 0) left.set(keyOf(line), n - 1);
    return n === 0;
  });
}

async function postedLines(db: Reading, journals: readonly number[]): Promise<Map<number, LandedLine[]>> {
  const { rows } = await sql<{ journal: number; account: AccountId; amount: Minor; values: string }>`
    SELECT l.journal_id AS journal, l.account_id AS account, l.base_amount AS amount,
      (SELECT json_group_array(d.value_id) FROM journal_line_dimension d
       WHERE d.journal_id = l.journal_id AND d.line_no = l.line_no) AS "values"
    FROM journal_line l WHERE l.journal_id IN (SELECT value FROM json_each(${JSON.stringify(journals)}))
    ORDER BY l.journal_id, l.line_no
  `.execute(db);
  const lines = new Map<number, LandedLine[]>();
  for (const { journal, values, ...line } of rows) {
    const list = lines.get(journal) ?? [];
    list.push({ ...line, values: (JSON.parse(values) as number[]).sort((a, b) => a - b) });
    lines.set(journal, list);
  }
  return lines;
}

/**
 * What of the last twelve months' posted receipts the map would book otherwise as it stands now. Receipts in closed
 * months and in daily summaries are left out: the first cannot be reversed where they stand, the others go by the day.
 */
export async function postAgainList(db: Reading, today: PlainDate, progress: Progress): Promise<PostAgainList> {
  const planner = await ReceiptPlanner.open(db);
  const from = pastFrom(today);
  const listed: ToPostAgain[] = [];
  let count = 0;
  for await (const batch of pastReceipts(db, from, progress)) {
    const posted = batch.filter((receipt) => receipt.journal !== null && receipt.document === '');
    const lines = await postedLines(
      db,
      posted.map((receipt) => receipt.journal!),
    );
    const single = await singleJournals(
      db,
      posted.map((receipt) => receipt.journal!),
    );
    for (const plan of await planner.planLoaded(db, posted)) {
      if ('refusal' in plan) continue;
      const receipt = posted.find(({ id }) => id === plan.id)!;
      if (!single.has(receipt.journal!)) continue;
      const now = plan.entry.lines.map(({ account, amount, dimensions }) => ({
        account,
        amount,
        values: (dimensions ?? []).map(([, value]) => value).sort((a, b) => a - b),
      }));
      const then = lines.get(receipt.journal!) ?? [];
      const before = without(then, now);
      const after = without(now, then);
      if (before.length + after.length === 0) continue;
      count++;
      if (listed.length < LISTED) {
        const { id, external_id: name, book_date: date, payerName: payer, gross } = receipt;
        listed.push({ id, name, date, payer, gross, before, after });
      }
    }
  }
  return { from, count, listed };
}

async function singleJournals(db: Reading, journals: readonly number[]): Promise<Set<number>> {
  const { rows } = await sql<{ id: number }>`
    SELECT id FROM journal WHERE source_kind = 'receipt'
      AND id IN (SELECT value FROM json_each(${JSON.stringify(journals)}))
  `.execute(db);
  return new Set(rows.map((row) => row.id));
}

/** Reverses the entries of receipts, each of which must have one of its own; refuses for the first that has not. */
export async function reverseOwnEntries(tx: Writing, writer: JournalWriter, ids: readonly number[]) {
  const { db } = tx;
  const { rows } = await sql<{
    id: number;
    name: string;
    date: PlainDate;
    journal: number | null;
    kind: string | null;
  }>`
    SELECT r.id, r.external_id AS name, r.book_date AS date, r.journal_id AS journal, j.source_kind AS kind
    FROM json_each(${JSON.stringify(ids)}) AS wanted JOIN receipt r ON r.id = wanted.value
    LEFT JOIN journal j ON j.id = r.journal_id ORDER BY wanted.key
  `.execute(db);
  const loose = rows.find((row) => row.journal === null);
  if (loose) return { code: 'not-posted', what: 'receipt', name: loose.name } as const;
  const summed = rows.find((row) => row.kind === 'summary');
  if (summed) return { code: 'in-summary', receipt: summed.name, date: summed.date } as const;
  await writeReversals(
    tx,
    writer,
    rows.map((row) => row.journal!),
  );
  await sql`
    UPDATE receipt SET journal_id = NULL, carried = NULL WHERE id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  return null;
}

/** Reverses posted receipts and posts them again as the map has them now, in one go. */
export const repostReceipts: Command<{ ids: number[] }, Posting> = {
  name: 'repost-receipts',
  input: z.object({ ids: z.array(z.number().int()).min(1).max(10_000) }),
  async run(tx, { ids }, context) {
    const writer = await JournalWriter.open(tx, context);
    const before = await postedNow(tx, ids);
    const refused = await reverseOwnEntries(tx, writer, ids);
    if (refused) return refuse(refused);
    const report = new PostingReport(writer);
    await writeReceipts(tx, { ids }, context, writer, report);
    const posting = await report.finish(tx.db);
    if (posting.notPosted[0]) return refuse(posting.notPosted[0].refusal);
    const what = plural(ids.length, 'receipt');
    const undo = { command: 'post-as-before', input: { before }, label: `post ${what} as they were before` };
    return done(posting, `Posted ${what} again by the map as it stands`, undo);
  },
};

const minorInput = z.custom<Minor>((value) => Number.isSafeInteger(value), 'an amount');

/** Posts receipts as they were once posted, whatever the map says now: takes a posting by the map back. */
export const postBack: Command<{ before: PostedBefore[] }, { count: number }> = {
  name: 'post-as-before',
  input: z.object({
    before: z
      .array(
        z.object({
          receipt: z.number().int(),
          journal: z.number().int(),
          notHeld: minorInput,
          carried: minorInput.nullable(),
        }),
      )
      .min(1),
  }),
  async run(tx, { before }, context) {
    const ids = before.map(({ receipt }) => receipt);
    const writer = await JournalWriter.open(tx, context);
    const refused = await reverseOwnEntries(tx, writer, ids);
    if (refused) return refuse(refused);
    await postAsBefore(tx, writer, before);
    await writer.finish();
    const what = plural(ids.length, 'receipt');
    const undo = { command: 'repost-receipts', input: { ids }, label: `post ${what} by the map again` };
    return done({ count: ids.length }, `Posted ${what} as they were before`, undo);
  },
};
