import { askAgain } from '../matching/ask-again';
import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { invoiceIssued, type AccountId, type Dimensions } from '@/core/ledger';
import { formatAmount, type Minor } from '@/core/money';
import { Cancelled, refuse, type Command, type CommandContext } from '../command';
import { JournalWriter } from '../ledger/journal-writer';
import { pairs, PostingReport, type Posting } from '../ledger/posting';
import { postingOutcome } from '../receipts/post';
import { OwedEntries } from '../settling/owed-entries';
import { todayOf } from '../setup/today';
import type { Reading, Writing } from '../store';
import { filterInvoices, invoiceFilter } from './filter';

const BATCH = 1_000;

/** Either the invoices named, or all that a filter shows. */
export const invoicesToPost = z.union([
  z.object({ ids: z.array(z.number().int()).min(1).max(10_000) }),
  z.object({ filter: invoiceFilter }),
]);
export type InvoicesToPost = z.infer<typeof invoicesToPost>;

interface LoadedInvoice {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly gross: Minor;
  readonly revision: number;
  readonly payer: string;
}

interface LoadedLine {
  readonly invoice: number;
  readonly item: string;
  readonly income: AccountId;
  readonly net: Minor;
  readonly tax: Minor;
  readonly code: string;
  readonly rate: number;
  readonly account: AccountId;
  readonly dimensions: string;
}

async function notPostedIds(db: Reading, what: InvoicesToPost, today: PlainDate): Promise<number[]> {
  if ('ids' in what) return what.ids;
  const rows = await filterInvoices(
    db.selectFrom('invoice').innerJoin('payer', 'payer.id', 'invoice.payer_id').where('invoice.journal_id', 'is', null),
    what.filter,
    today,
  )
    .select('invoice.id')
    .orderBy('invoice.id')
    .execute();
  return rows.map((row) => row.id);
}

async function load(db: Reading, ids: readonly number[]): Promise<[LoadedInvoice[], Map<number, LoadedLine[]>]> {
  const wanted = sql`(SELECT value FROM json_each(${JSON.stringify(ids)}))`;
  const invoices = await sql<LoadedInvoice>`
    SELECT i.id, i.number, i.issued, i.gross, i.revision, p.name AS payer
    FROM invoice i JOIN payer p ON p.id = i.payer_id
    WHERE i.id IN ${wanted} AND i.journal_id IS NULL ORDER BY i.id
  `.execute(db);
  const lines = await sql<LoadedLine>`
    SELECT l.invoice_id AS invoice, item.code AS item, item.income_account_id AS income, l.net, l.tax, t.code, l.rate,
           t.account_id AS account, l.dimensions
    FROM invoice_line l JOIN item was ON was.id = l.item_id JOIN item ON item.id = coalesce(was.merged_into, was.id)
    JOIN tax_code t ON t.id = l.tax_code_id
    WHERE l.invoice_id IN ${wanted} ORDER BY l.invoice_id, l.line_no
  `.execute(db);
  const byInvoice = new Map<number, LoadedLine[]>();
  for (const line of lines.rows) {
    const list = byInvoice.get(line.invoice);
    if (list) list.push(line);
    else byInvoice.set(line.invoice, [line]);
  }
  return [invoices.rows, byInvoice];
}

/** Writes the entries of these invoices, batch by batch and set-based. */
export async function writeInvoices(
  tx: Writing,
  what: InvoicesToPost,
  context: CommandContext,
  report: PostingReport,
): Promise<void> {
  const { db } = tx;
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const { id: receivable } = await db
    .selectFrom('account')
    .select('id')
    .where('role', '=', 'receivable')
    .executeTakeFirstOrThrow();
  const owed = new OwedEntries(tx);
  const ids = await notPostedIds(db, what, todayOf(books, context.now));
  for (let at = 0; at < ids.length; at += BATCH) {
    const [invoices, lines] = await load(db, ids.slice(at, at + BATCH));
    const journals: [number, number][] = [];
    for (const invoice of invoices) {
      const { issued, number } = invoice;
      if (books.closed_through !== null && issued <= books.closed_through) {
        report.leave(number, { code: 'period-closed', date: issued, closedThrough: books.closed_through });
        continue;
      }
      const entry = invoiceIssued({
        document: number,
        receivable,
        lines: lines.get(invoice.id)!.map(({ item, income, net, tax, code, rate, account, dimensions }) => ({
          item,
          income,
          net,
          ...(dimensions !== '[]' && { dimensions: JSON.parse(dimensions) as Dimensions }),
          tax: { account, code, rate, amount: tax },
        })),
      });
      const journal = report.post(
        {
          date: issued,
          source: { kind: 'invoice', id: invoice.id, revision: invoice.revision + 1 },
          memo: `Invoice ${number}, ${invoice.payer}`,
          lines: entry.lines,
        },
        invoice.gross,
      );
      journals.push([invoice.id, journal]);
      owed.owe(invoice.id, journal, issued, invoice.gross, 'issued');
    }
    report.flush();
    await owed.flush();
    await sql`
      UPDATE invoice SET journal_id = t.b, revision = revision + 1 FROM ${pairs(journals)} AS t WHERE invoice.id = t.a
    `.execute(db);
    context.progress.report('Posting invoices', Math.min(at + BATCH, ids.length), ids.length);
    if (context.progress.cancelled) throw new Cancelled();
  }
}

/** Posts invoices: recipe 1. What cannot be posted is left and named; the rest is posted. */
export const postInvoices: Command<InvoicesToPost, Posting> = {
  name: 'post-invoices',
  input: invoicesToPost,
  async run(tx, what, context) {
    const report = new PostingReport(await JournalWriter.open(tx, context));
    await writeInvoices(tx, what, context, report);
    const posting = await report.finish(tx.db);
    await askAgain(tx, context, posting.posted);
    const { currency } = await tx.db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    if (posting.posted === 0 && posting.notPostedCount === 0 && 'ids' in what) {
      const first = await tx.db
        .selectFrom('invoice')
        .select('number')
        .where('id', '=', what.ids[0]!)
        .executeTakeFirst();
      return refuse({ code: 'already-posted', what: 'invoice', name: first?.number ?? String(what.ids[0]) });
    }
    return postingOutcome(posting, 'ids' in what, 'invoice', 'invoices', formatAmount(posting.gross, currency));
  },
};
