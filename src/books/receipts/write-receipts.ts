import { plural } from '@/core/words';
import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { formatDay } from '@/core/calendar';
import { EntrySummary } from '@/core/ledger';
import { add, ZERO, type Minor } from '@/core/money';
import { Cancelled, type CommandContext } from '../command';
import type { JournalWriter } from '../ledger/journal-writer';
import { pairs, type PostingReport } from '../ledger/posting';
import { OwedEntries } from '../settling/owed-entries';
import type { PostingMode, Reading, Writing } from '../store';
import { filterReceipts, receiptFilter, type ReceiptFilter } from './filter';
import { ReceiptPlanner, type PlannedReceipt } from './plan';
import { totalPayouts } from './staged';

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
      .where('receipt.journal_id', 'is', null)
      .where('receipt.aside', 'is', null),
    filter,
  );
}

/** The entries that posted receipts stand in, oldest first. */
export async function journalsOf(db: Reading, what: ReceiptsToPost) {
  const entries = db
    .selectFrom('journal')
    .select(['journal.id', 'journal.source_kind as kind', 'journal.source_id as source'])
    .orderBy('journal.id');
  if ('ids' in what) {
    const ids = sql<number>`(SELECT value FROM json_each(${JSON.stringify(what.ids)}))`;
    const named = db
      .selectFrom('receipt')
      .select('journal_id')
      .where('id', 'in', ids)
      .where('journal_id', 'is not', null);
    return entries.where('journal.id', 'in', named.$castTo<{ journal_id: number }>()).execute();
  }
  const shown = filterReceipts(
    db
      .selectFrom('receipt')
      .leftJoin('payout', 'payout.id', 'receipt.payout_id')
      .leftJoin('payer', 'payer.id', 'receipt.payer_id')
      .where('receipt.journal_id', 'is not', null),
    what.filter,
  ).select('receipt.journal_id');
  return entries.where('journal.id', 'in', shown.$castTo<{ journal_id: number }>()).execute();
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

/** How each channel posts, from which day on; asked for every receipt, so kept. */
class PostingModes {
  private constructor(private readonly steps: ReadonlyMap<number, readonly { from: PlainDate; mode: PostingMode }[]>) {}

  static async of(db: Reading): Promise<PostingModes> {
    const rows = await db.selectFrom('channel_posting').selectAll().orderBy('from_day', 'desc').execute();
    const steps = new Map<number, { from: PlainDate; mode: PostingMode }[]>();
    for (const { channel_id: channel, from_day: from, mode } of rows) {
      steps.set(channel, [...(steps.get(channel) ?? []), { from, mode }]);
    }
    return new PostingModes(steps);
  }

  on(channel: number, day: PlainDate): PostingMode {
    return this.steps.get(channel)?.find(({ from }) => from <= day)?.mode ?? 'each';
  }
}

/** The receipts of one channel, site and day that go into one entry. */
interface Day {
  readonly channel: number;
  readonly site: number | null;
  readonly date: PlainDate;
  readonly summary: EntrySummary;
  readonly receipts: number[];
  readonly owed: PlannedReceipt[];
  gross: Minor;
}

/** Writes the entries of receipts, batch by batch and set-based: an entry each, or one for a day and site. */
class ReceiptWriter {
  private readonly days = new Map<string, Day>();
  /** Receipts that were refused, or are in a day's summary: not to be planned again with the rest of their day. */
  private readonly looked = new Set<number>();
  /** Receipts that clearing does not hold all of, or carries at another amount: their id, and the two figures. */
  private readonly held: (readonly [id: number, notHeld: Minor, carried: Minor | null])[] = [];

  constructor(
    private readonly tx: Writing,
    private readonly planner: ReceiptPlanner,
    private readonly modes: PostingModes,
    private readonly writer: JournalWriter,
    private readonly report: PostingReport,
    private readonly owed: OwedEntries,
  ) {}

  async batch(ids: readonly number[]): Promise<void> {
    const journals: [number, number][] = [];
    const owed: (readonly [number, PlannedReceipt])[] = [];
    for (const plan of await this.planner.plan(this.tx.db, ids)) {
      if ('refusal' in plan) {
        this.report.leave(plan.name, plan.refusal);
        this.looked.add(plan.id);
        continue;
      }
      if (!plan.heldAsBefore || plan.carried !== null) this.held.push([plan.id, plan.notHeld, plan.carried]);
      if (this.modes.on(plan.channel, plan.date) === 'summary') {
        this.addToDay(plan);
      } else {
        const source = { kind: 'receipt', id: plan.id, revision: plan.revision } as const;
        const { date, memo, entry } = plan;
        const journal = this.report.post({ date, source, memo, lines: entry.lines }, plan.gross);
        journals.push([plan.id, journal]);
        if (plan.settles || plan.keeps) owed.push([journal, plan]);
      }
    }
    await this.tie(journals, owed);
  }

  private addToDay(plan: PlannedReceipt): void {
    const { channel, site, date } = plan;
    const key = `${channel}|${site}|${date}`;
    let day = this.days.get(key);
    if (day === undefined) {
      day = { channel, site, date, summary: new EntrySummary(), receipts: [], owed: [], gross: ZERO };
      this.days.set(key, day);
    }
    day.summary.add(plan.entry);
    day.receipts.push(plan.id);
    day.gross = add(day.gross, plan.gross);
    if (plan.settles || plan.keeps) day.owed.push(plan);
    this.looked.add(plan.id);
  }

  /** What else is not posted of the days that a summary was begun for: a day is posted as a whole. */
  async restOfDays(): Promise<void> {
    for (const { channel, site, date } of [...this.days.values()]) {
      const { rows } = await sql<{ id: number }>`
        SELECT id FROM receipt WHERE channel_id = ${channel} AND site_id IS ${site} AND book_date = ${date}
          AND journal_id IS NULL AND aside IS NULL ORDER BY id
      `.execute(this.tx.db);
      const rest = rows.flatMap(({ id }) => (this.looked.has(id) ? [] : [id]));
      if (rest.length > 0) await this.batch(rest);
    }
  }

  /** Says of receipts what of them clearing holds, where that is not all, or not in the books' currency. */
  async markHeld(): Promise<void> {
    if (this.held.length === 0) return;
    await sql`
      UPDATE receipt SET not_held = t.not_held, carried = t.carried
      FROM (SELECT value ->> 0 AS id, value ->> 1 AS not_held, value ->> 2 AS carried
            FROM json_each(${JSON.stringify(this.held)})) AS t
      WHERE receipt.id = t.id
    `.execute(this.tx.db);
    const ids = JSON.stringify(this.held.map(([id]) => id));
    await totalPayouts(
      this.tx.db,
      sql`SELECT DISTINCT payout_id AS id FROM receipt
          WHERE id IN (SELECT value FROM json_each(${ids})) AND payout_id IS NOT NULL`,
    );
  }

  async writeDays(): Promise<void> {
    const { db } = this.tx;
    const names = new Map((await db.selectFrom('channel').select(['id', 'name']).execute()).map((c) => [c.id, c.name]));
    const sites = new Map((await db.selectFrom('site').select(['id', 'name']).execute()).map((s) => [s.id, s.name]));
    const { last } = await db
      .selectFrom('summary')
      .select((e) => e.fn.coalesce(e.fn.max('id'), e.lit(0)).as('last'))
      .executeTakeFirstOrThrow();
    let id = Number(last);
    for (const day of this.days.values()) {
      const where = [names.get(day.channel), day.site === null ? '' : sites.get(day.site)].filter(Boolean).join(', ');
      const count = plural(day.receipts.length, 'receipt');
      const journal = this.report.post(
        {
          date: day.date,
          source: { kind: 'summary', id: ++id, revision: 1 },
          memo: `${where}, ${formatDay(day.date)}: ${count}`,
          lines: day.summary.entry().lines,
        },
        day.gross,
        day.receipts.length,
      );
      this.writer.flush();
      await db
        .insertInto('summary')
        .values({
          id,
          channel_id: day.channel,
          site_id: day.site,
          book_date: day.date,
          receipts: day.receipts.length,
          gross: day.gross,
          journal_id: journal,
        })
        .execute();
      await this.tie(
        day.receipts.map((receipt) => [receipt, journal]),
        day.owed.map((plan) => [journal, plan] as const),
      );
    }
  }

  private async tie(
    journals: readonly [number, number][],
    owed: readonly (readonly [journal: number, plan: PlannedReceipt])[],
  ): Promise<void> {
    const { db } = this.tx;
    this.writer.flush();
    for (const [journal, { date, settles, keeps }] of owed) {
      if (settles) {
        this.owed.settle(settles.invoice, journal, date, settles.amount);
        this.owed.settle(settles.invoice, journal, date, settles.takenOff, 'discount');
      }
      if (keeps) this.owed.keep(keeps, journal, date, keeps.amount);
    }
    await sql`
      UPDATE receipt SET journal_id = t.b, revision = revision + 1 FROM ${pairs(journals)} AS t WHERE receipt.id = t.a
    `.execute(db);
    await this.owed.flush();
  }
}

/** Writes the entries of these receipts. Of a channel that posts by the day, the whole of each day that is touched. */
export async function writeReceipts(
  tx: Writing,
  what: ReceiptsToPost,
  context: CommandContext,
  writer: JournalWriter,
  report: PostingReport,
): Promise<void> {
  const { db } = tx;
  const receipts = new ReceiptWriter(
    tx,
    await ReceiptPlanner.open(db),
    await PostingModes.of(db),
    writer,
    report,
    new OwedEntries(tx),
  );
  const total = await countOf(db, what);
  let looked = 0;
  for await (const ids of batches(db, what)) {
    await receipts.batch(ids);
    looked += ids.length;
    context.progress.report('Posting receipts', looked, total);
    if (context.progress.cancelled) throw new Cancelled();
  }
  await receipts.restOfDays();
  await receipts.writeDays();
  await receipts.markHeld();
}
