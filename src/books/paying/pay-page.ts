import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { subtract, sum, ZERO, type Minor } from '@/core/money';
import { invoiceDocument, type InvoiceDocument } from '../billing/document';
import { noteHandout, transferCodeOf } from '../billing/hand-out';
import { earlyPayments } from '../settling/early';
import { clockOf, todayOf } from '../setup/today';
import type { BooksFile, Reading } from '../store';
import { payingChannel } from './begin';

export interface PaidBy {
  readonly receipt: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly amount: Minor;
}

/** What stands on the public page of an invoice. Minor units. */
export interface PayPage {
  readonly invoice: number;
  readonly document: InvoiceDocument;
  readonly state: 'open' | 'paid' | 'void';
  /** What settles it today: what is open less what has come already, less a discount that is still in time. */
  readonly asked: Minor;
  readonly discount: Minor;
  readonly receipts: readonly PaidBy[];
  /** A payment was begun and its receipt is not here. */
  readonly underWay: boolean;
  /** It was handed out with another total, and when. */
  readonly changedSince: { readonly gross: Minor } | null;
  /** The text of the code that a bank's app reads; null where there is none. */
  readonly transferCode: string | null;
  readonly takesCards: boolean;
}

const TOKEN = /^[A-Za-z0-9_-]{43}$/;

/** The invoice of a token; null where there is none, however it was come by. */
export async function invoiceOfToken(db: Reading, token: string): Promise<number | null> {
  if (!TOKEN.test(token)) return null;
  const row = await db.selectFrom('pay_link').select('invoice_id').where('token', '=', token).executeTakeFirst();
  return row?.invoice_id ?? null;
}

/** Receipts that name an invoice, refunds and what was set aside left out; those not posted yet count as come. */
async function receiptsOf(db: Reading, invoice: number): Promise<(PaidBy & { readonly posted: 0 | 1 })[]> {
  const { rows } = await sql<PaidBy & { posted: 0 | 1 }>`
    SELECT id AS receipt, external_id AS name, book_date AS date, gross AS amount, journal_id IS NOT NULL AS posted
    FROM receipt WHERE invoice_id = ${invoice} AND kind = 'receipt' AND aside IS NULL ORDER BY book_date, id
  `.execute(db);
  return rows;
}

/** What an invoice asks for on a day, with what has come and is not posted counted in. */
export async function askedToday(
  db: Reading,
  invoice: number,
  today: PlainDate,
): Promise<{ asked: Minor; discount: Minor }> {
  const row = await db.selectFrom('invoice').selectAll().where('id', '=', invoice).executeTakeFirstOrThrow();
  const come = (await receiptsOf(db, invoice)).filter(({ posted }) => posted === 0);
  const early = (await earlyPayments(db, [invoice])).get(invoice);
  let open = subtract(row.gross, row.paid);
  for (const { amount, date } of come) {
    const { asked, discount } = early?.asked(open, date) ?? { asked: open, discount: ZERO };
    // One that came in time for all of the rest takes the discount, as it will once it is posted.
    open = amount >= asked && amount < open ? subtract(subtract(open, amount), discount) : subtract(open, amount);
  }
  if (open <= 0 || row.journal_id === null) return { asked: ZERO, discount: ZERO };
  return early?.asked(open, today) ?? { asked: open, discount: ZERO };
}

export async function payPage(db: Reading, token: string, now: Date): Promise<PayPage | null> {
  const invoice = await invoiceOfToken(db, token);
  if (invoice === null) return null;
  const document = (await invoiceDocument(db, invoice))!;
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const { asked, discount } = await askedToday(db, invoice, todayOf(books, now));
  const receipts = await receiptsOf(db, invoice);
  const { rows: waiting } = await sql<{ n: number }>`
    SELECT count(*) AS n FROM payment p WHERE p.purpose = 'invoice' AND p.purpose_id = ${invoice}
      AND NOT EXISTS (SELECT 1 FROM receipt r WHERE r.channel_id = p.channel_id AND r.external_id = p.external_id)
  `.execute(db);
  const handed = await db
    .selectFrom('handout')
    .select(['version', 'gross'])
    .where('document', '=', 'invoice')
    .where('document_id', '=', invoice)
    .where('how', 'in', ['mail', 'pdf'])
    .orderBy('id', 'desc')
    .executeTakeFirst();
  const changed = handed && handed.version < document.version && handed.gross !== document.gross;
  const channel = await payingChannel(db, null);
  const isVoid = document.credited >= document.gross;
  return {
    invoice,
    document,
    state: isVoid ? 'void' : asked > 0 ? 'open' : 'paid',
    asked: isVoid ? ZERO : asked,
    discount,
    receipts,
    underWay: waiting[0]!.n > 0,
    changedSince: changed ? { gross: handed.gross } : null,
    transferCode: isVoid ? null : transferCodeOf(document, asked),
    takesCards: channel !== undefined,
  };
}

/** Remembers that a version was seen by its link, once. */
export async function noteSeen(books: BooksFile, invoice: number, version: number, now: Date): Promise<void> {
  const there = await books.reader
    .selectFrom('handout')
    .select('id')
    .where('document', '=', 'invoice')
    .where('document_id', '=', invoice)
    .where('how', '=', 'link')
    .where('version', '=', version)
    .executeTakeFirst();
  if (there) return;
  await books.write(
    async (tx) => {
      const at = clockOf(await tx.db.selectFrom('books').selectAll().executeTakeFirstOrThrow(), now).toISOString();
      await noteHandout(tx, {
        document: 'invoice',
        document_id: invoice,
        how: 'link',
        given_to: '',
        at,
        actor: 'payer',
      });
    },
    () => true,
  );
}

/** All that came, minor units. */
export const cameOf = (page: PayPage): Minor => sum(page.receipts.map(({ amount }) => amount));
