import { sql } from 'kysely';
import type { Minor } from '@/core/money';
import { containing } from '../receipts/filter';
import type { Reading } from '../store';
import { LINE_COLUMNS, linePart, transitAccount, type LineRow } from './line-parts';
import { channelBookings, receivableOf } from './channel-bookings';
import { PAYOUT_COLUMNS, type InvoiceRow, type PayoutRow, type ReceiptRow } from './part-rows';
import { invoicePart, payoutPart, receiptPart, type SheetPart } from './parts';

async function notPostedReceipts(db: Reading): Promise<number> {
  const { n } = await db
    .selectFrom('receipt')
    .select((e) => e.fn.countAll<number>().as('n'))
    .where('journal_id', 'is', null)
    .where('aside', 'is', null)
    .where('payout_ref', '=', '')
    .executeTakeFirstOrThrow();
  return n;
}

const CANDIDATES_PER_KIND = 40;

/** Lines that belong together are no further apart, unless they are searched for. */
const DAYS_BETWEEN = 10;

/** Receipts this many days older than the line are not offered unless they are searched for. */
const DAYS_BACK = 21;

export interface Candidates {
  readonly payouts: readonly SheetPart[];
  readonly receipts: readonly SheetPart[];
  readonly invoices: readonly SheetPart[];
  /** Other lines to explain around the day of this one: of its account what went the same way, of others the other way. */
  readonly lines: readonly SheetPart[];
  /** Receipts that no payout carries and that cannot be laid yet because they are not posted. */
  readonly notPosted: number;
}

/**
 * What could be laid on the sheet of a line: free payouts nearest in amount, receipts that no payout carries, newest
 * first, open invoices, and other lines of the bank to explain. A text narrows by id, payer, document or note; an amount (minor units) by gross or net.
 */
export async function candidates(
  db: Reading,
  lineId: number,
  find: { readonly text: string; readonly amount: Minor | null },
): Promise<Candidates> {
  const line = await db.selectFrom('statement_line').selectAll().where('id', '=', lineId).executeTakeFirstOrThrow();
  const channels = await channelBookings(db);
  const receivable = await receivableOf(db);
  const like = containing(find.text);
  const says = (columns: string[]) =>
    find.text === '' || find.amount !== null
      ? sql`1`
      : sql`(${sql.join(
          columns.map((column) => sql`${sql.ref(column)} LIKE ${like} ESCAPE '\\'`),
          sql` OR `,
        )})`;
  const amounts = (figure: ReturnType<typeof sql>) =>
    find.amount === null ? sql`1` : sql`${figure} = ${Math.abs(find.amount)}`;
  const payouts = await sql<PayoutRow>`
    SELECT ${PAYOUT_COLUMNS} FROM payout p
    WHERE p.match_id IS NULL AND ${says(['p.external_id'])} AND ${amounts(sql`p.net`)}
    ORDER BY abs(p.net - ${line.amount}), p.book_date DESC LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  const searching = find.text !== '';
  const receipts = await sql<ReceiptRow>`
    SELECT r.id, r.channel_id, r.external_id, r.book_date, r.gross, r.fee, r.not_held, y.name AS payer, r.document, r.note, r.fund
    FROM receipt r LEFT JOIN payer y ON y.id = r.payer_id
    WHERE r.payout_ref = '' AND r.match_id IS NULL AND r.journal_id IS NOT NULL AND r.not_held <> r.gross
      AND r.currency = (SELECT currency FROM books)
      AND ${searching ? sql`1` : sql`r.book_date BETWEEN date(${line.book_date}, ${`-${DAYS_BACK} days`}) AND ${line.book_date}`}
      AND ${says(['r.external_id', 'y.name', 'r.document', 'r.note'])} AND ${amounts(sql`r.gross`)}
    ORDER BY r.book_date DESC, r.id DESC LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  const invoices = await sql<InvoiceRow>`
    SELECT i.id, i.number, i.issued, y.id AS payerId, y.name AS payer, i.gross - i.paid AS open
    FROM invoice i JOIN payer y ON y.id = i.payer_id
    WHERE i.journal_id IS NOT NULL AND i.paid < i.gross AND ${line.amount} > 0
      AND ${says(['i.number', 'y.name'])} AND ${find.amount === null ? sql`1` : sql`i.gross - i.paid = ${find.amount}`}
    ORDER BY abs(i.gross - i.paid - ${line.amount}), i.due LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  const lines = await sql<LineRow>`
    SELECT ${LINE_COLUMNS} FROM statement_line l
    WHERE l.match_id IS NULL AND l.aside IS NULL AND l.id <> ${lineId} AND l.currency = ${line.currency}
      AND (${searching ? sql`1` : sql`0`} OR (l.account_id = ${line.account_id}) = ((l.amount > 0) = ${line.amount > 0 ? sql`1` : sql`0`}))
      AND ${searching ? sql`1` : sql`l.book_date BETWEEN date(${line.book_date}, ${`-${DAYS_BETWEEN} days`}) AND date(${line.book_date}, ${`+${DAYS_BETWEEN} days`})`}
      AND ${says(['l.text', 'l.counterparty', 'l.reference'])} AND ${amounts(sql`abs(l.amount)`)}
    ORDER BY l.amount <> ${-line.amount}, abs(julianday(l.book_date) - julianday(${line.book_date})), l.id
    LIMIT ${CANDIDATES_PER_KIND}
  `.execute(db);
  const transit = await transitAccount(db);
  return {
    lines: lines.rows.map((row) => linePart(row, line.book_date, transit)),
    payouts: payouts.rows.map((row) => payoutPart(row, channels)),
    receipts: receipts.rows.map((row) => receiptPart(row, channels)),
    notPosted: await notPostedReceipts(db),
    invoices: invoices.rows.map((row) => invoicePart(row, row.open, receivable)),
  };
}
