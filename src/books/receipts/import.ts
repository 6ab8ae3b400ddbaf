import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import { addWorkingDays, bookDates, type PlainDate } from '@/core/calendar';
import { referenceKey } from '@/core/matching';
import type { Minor } from '@/core/money';
import { refusalsAsFindings } from '@/formats/finding';
import { readMovements } from '@/formats/movements/lines';
import { readCardDeskCsv } from '@/formats/receipts/card-desk-csv';
import type { ReceiptProfile } from '@/formats/receipts/profile';
import { readReceipts } from '@/formats/receipts/receipts-table';
import type { ReceiptRecord } from '@/formats/receipts/record';
import { readTillDays } from '@/formats/receipts/till-days';
import type { Importer, ImportReport } from '../imports/import-file';
import type { Stage } from '../imports/stage';
import { resolvePayers } from '../imports/stage-payers';
import { learnFeeSteps } from '../matching/learn-fee-steps';
import { refreshProposals } from '../matching/proposals';
import type { Reading } from '../store';
import { PLAIN_TABLE, type TableReading } from '../imports/refused-rows';
import { rowsOf } from '../imports/rows-of';
import { LINE_COLUMNS, RECEIPT_COLUMNS, TENDER_COLUMNS } from './stage-columns';
import { judgeStaged } from './judge';
import { decideHeld, insertPayouts, insertReceipts, keepChanges, linkPayouts, totalPayouts } from './staged';

/** Where receipts come from and how their file is read. */
export interface ReceiptSource {
  /** The channel they were collected through; the first of the books where none is named. */
  readonly channel?: number;
  /** How the file is read; without it, it must be an export with this program's own columns. */
  readonly profile?: { readonly fingerprint: string; readonly settings: ReceiptProfile };
  /** Fetched from the channel: one movement a line (formats/movements). */
  readonly fetched?: boolean;
}

async function channelOf(db: Reading, id: number | undefined) {
  let query = db.selectFrom('channel').selectAll();
  if (id !== undefined) query = query.where('id', '=', id);
  return query.orderBy('id').executeTakeFirstOrThrow();
}

type Channel = Awaited<ReturnType<typeof channelOf>>;

/** Checks what a file says against what the channel is, and gives what the books need of it. */
class Admission {
  private constructor(
    private readonly stage: Stage,
    private readonly channel: Channel,
    private readonly items: ReadonlySet<string>,
    private readonly sites: ReadonlyMap<string, number>,
    /** Whether a text that is no item's code is kept as a description, as in files of others, or refused. */
    private readonly textAsNote: boolean,
  ) {}

  static async of(stage: Stage, db: Reading, channel: Channel, textAsNote: boolean): Promise<Admission> {
    const items = await db.selectFrom('item').select('code').execute();
    const sites = await db.selectFrom('site').selectAll().where('channel_id', '=', channel.id).execute();
    return new Admission(
      stage,
      channel,
      new Set(items.map((item) => item.code)),
      new Map(
        sites.flatMap((site) => [
          [site.code.toLowerCase(), site.id],
          [site.name.toLowerCase(), site.id],
        ]),
      ),
      textAsNote,
    );
  }

  /** Whether a text is the code of an item of these books. */
  itemOf(text: string): boolean {
    return this.items.has(text);
  }

  /** Where it is, what it is for, and whether it may come in; findings say why not. */
  of(r: ReceiptRecord, day: PlainDate) {
    const { currency, history_from: from } = this.channel;
    const known = r.item === '' || this.items.has(r.item);
    const site = r.site === '' ? null : (this.sites.get(r.site.toLowerCase()) ?? null);
    const place = { scope: 'record', line: r.line, subject: r.id } as const;
    let action = 'refused';
    if (r.currency !== currency) {
      this.stage.find({ ...place, code: 'other-currency', field: 'Currency', expected: currency, found: r.currency });
    } else if (from !== null && day < from) {
      this.stage.find({ ...place, code: 'before-history', field: 'Time', expected: from, found: day });
    } else if (!known && !this.textAsNote) {
      this.stage.find({ ...place, code: 'unknown-item', field: 'Item', found: r.item });
    } else if (r.site !== '' && site === null) {
      this.stage.find({ ...place, code: 'unknown-site', field: 'Site', found: r.site });
    } else {
      action = 'new';
    }
    const note = known ? r.note : [r.item, r.note].filter(Boolean).join(', ');
    return { action, site, item: known ? r.item : '', note };
  }
}

const pick = ({ above, encoding }: ReceiptProfile): TableReading => ({ above, encoding });

/** Receipts, refunds and payouts of one channel. */
export function receiptsFrom({ channel: wanted, profile, fetched = false }: ReceiptSource): Importer<ReceiptRecord> {
  return {
    kind: 'receipts',
    noun: { one: 'movement', many: 'movements' },
    reading: fetched ? null : profile ? pick(profile.settings) : PLAIN_TABLE,
    read(open) {
      const source = open();
      if (fetched) return refusalsAsFindings(readMovements(source));
      if (!profile) return readCardDeskCsv(source);
      const { settings } = profile;
      const rows = rowsOf(source, settings.delimiter, settings.encoding);
      return refusalsAsFindings(
        settings.shape === 'till-days' ? readTillDays(rows, settings) : readReceipts(rows, settings),
      );
    },

    async stage(stage, db) {
      const insert = stage.table('stage_receipt', RECEIPT_COLUMNS);
      const insertLine = stage.table('stage_line', LINE_COLUMNS, 'by key');
      const insertTender = stage.table('stage_tender', TENDER_COLUMNS, 'by key');
      const books = await db.selectFrom('books').select(['zone', 'country']).executeTakeFirstOrThrow();
      const channel = await channelOf(db, wanted);
      const admission = await Admission.of(stage, db, channel, profile !== undefined || fetched);
      const dateOf = bookDates(books.zone);
      const calendar = workingCalendar(books.country);
      const expected = new Map<PlainDate, PlainDate>();
      const expectedOn = (day: PlainDate) => {
        let on = expected.get(day);
        if (!on) expected.set(day, (on = addWorkingDays(day, channel.payout_days, calendar)));
        return on;
      };
      return (r) => {
        const day = dateOf(r.at);
        const { action, site, item, note } = admission.of(r, day);
        insert(
          r.line,
          r.kind,
          r.id,
          r.at.toISOString(),
          day,
          r.kind === 'payout' ? expectedOn(day) : null,
          r.currency,
          r.gross,
          r.tip,
          r.fee,
          r.payer,
          r.email.toLowerCase(),
          r.document,
          item,
          note,
          r.payout,
          r.refundOf,
          r.kind === 'payout' ? referenceKey(r.id) : null,
          r.discount,
          r.payerId,
          r.method,
          site,
          r.country,
          r.region,
          r.fund,
          action,
          null,
        );
        let lineNo = 0;
        for (const { item: code, description, units, gross, discount, tax } of r.lines ?? []) {
          const is = admission.itemOf(code);
          const said = is || code === '' ? description : description === '' ? code : `${code}, ${description}`;
          insertLine(r.line, ++lineNo, is ? code : '', said, units, gross, discount, tax);
        }
        for (const { tender, amount } of r.tenders ?? []) insertTender(r.line, tender, amount);
      };
    },

    staged(stage) {
      stage.index('stage_receipt', 'external_id, kind');
    },

    async judge(db) {
      await judgeStaged(db, (await channelOf(db, wanted)).id);
      const { rows } = await sql<{ action: string; n: number }>`
        SELECT action, count(*) AS n FROM temp.stage_receipt GROUP BY action
      `.execute(db);
      const count = (action: string) => rows.find((row) => row.action === action)?.n ?? 0;
      return { added: count('new'), updated: count('updated'), changed: count('changed'), known: count('known') };
    },

    async groups(db) {
      const { rows } = await sql<{ kind: string; n: number; amount: Minor; first: PlainDate; last: PlainDate }>`
        SELECT kind, count(*) AS n, sum(gross) AS amount, min(book_date) AS first, max(book_date) AS last
        FROM temp.stage_receipt WHERE action = 'new' GROUP BY kind
      `.execute(db);
      const label = (kind: string, n: number) => (n === 1 ? kind : `${kind}s`);
      const days = rows.flatMap((row) => [row.first, row.last]).sort();
      return {
        groups: ['receipt', 'refund', 'chargeback', 'payout'].flatMap((kind): ImportReport['groups'] => {
          const row = rows.find((r) => r.kind === kind);
          return row ? [{ label: label(kind, row.n), added: row.n, amount: row.amount }] : [];
        }),
        from: days[0] ?? null,
        to: days.at(-1) ?? null,
      };
    },

    async apply(tx, run, { now }) {
      const { db } = tx;
      const channel = await channelOf(db, wanted);
      await resolvePayers(db, 'stage_receipt', channel.id);
      await insertPayouts(db, channel.id, run);
      await insertReceipts(db, channel.id, run);
      await decideHeld(db, run);
      await keepChanges(db, run);
      await linkPayouts(db, channel.id, run);
      await totalPayouts(
        db,
        sql`SELECT DISTINCT payout_id AS id FROM receipt WHERE (run_id = ${run} OR payout_run_id = ${run})
              AND payout_id IS NOT NULL
            UNION SELECT id FROM payout WHERE run_id = ${run}`,
      );
      if (profile) {
        const { fingerprint, settings } = profile;
        const row = { settings: JSON.stringify(settings), used_at: now.toISOString() };
        await db
          .insertInto('profile')
          .values({ fingerprint, ...row })
          .onConflict((c) => c.column('fingerprint').doUpdateSet(row))
          .execute();
      }
      await learnFeeSteps(tx, [channel.id]);
      await refreshProposals(tx, { all: true });
    },
  };
}

/** Receipts of the books' first channel, in this program's own columns. */
export const receiptsImporter = receiptsFrom({});
