import { randomBytes } from 'node:crypto';
import { z } from 'zod';
import type { Mailer } from '@/adapters/mailer';
import { formatDate } from '@/core/calendar';
import { formatAmount, subtract, type Minor } from '@/core/money';
import { transferCode } from '@/formats/epc/epc069';
import { done, refuse, type Command } from '../command';
import { clockOf } from '../setup/today';
import type { BooksFile, HandoutTable, Reading, Writing } from '../store';
import { textInput } from './bill-input';
import { creditNoteDocument, invoiceDocument, type InvoiceDocument } from './document';
import { creditNotePdf, invoicePdf } from './invoice-pdf';

/** Bytes of a token: nobody guesses 256 bits. */
const TOKEN_BYTES = 32;

/** The address of an invoice's public page below the server's own; made once and kept. */
export async function payLinkOf(db: Reading, invoice: number, at: string): Promise<string> {
  const there = await db.selectFrom('pay_link').select('token').where('invoice_id', '=', invoice).executeTakeFirst();
  if (there) return there.token;
  const token = randomBytes(TOKEN_BYTES).toString('base64url');
  await db.insertInto('pay_link').values({ token, invoice_id: invoice, made_at: at }).execute();
  return token;
}

/** What a bank's app reads off the printed invoice; null where it asks for nothing, or not in euro. */
export function transferCodeOf({ from, number }: InvoiceDocument, asked: Minor): string | null {
  if (!from.bank || from.currency !== 'EUR' || asked <= 0) return null;
  return transferCode({ name: from.name, ...from.bank, cents: asked, remittance: number });
}

/** The PDF of an invoice with the address to pay at. */
export async function printedInvoice(
  db: Reading,
  invoice: number,
  payAt: (token: string) => string,
): Promise<{ name: string; bytes: Uint8Array } | null> {
  const document = await invoiceDocument(db, invoice);
  if (!document) return null;
  const link = await db.selectFrom('pay_link').select('token').where('invoice_id', '=', invoice).executeTakeFirst();
  const open = subtract(document.gross, document.paid);
  const bytes = await invoicePdf(document, link ? payAt(link.token) : null, transferCodeOf(document, open));
  return { name: `invoice-${document.number}.pdf`, bytes };
}

export async function printedCreditNote(
  db: Reading,
  note: number,
): Promise<{ name: string; bytes: Uint8Array } | null> {
  const document = await creditNoteDocument(db, note);
  return document && { name: `credit-note-${document.number}.pdf`, bytes: await creditNotePdf(document) };
}

/** Remembers what was given to whom, and which version it was. */
export async function noteHandout(
  { db }: Pick<Writing, 'db'>,
  what: Pick<HandoutTable, 'document' | 'document_id' | 'how' | 'given_to' | 'at' | 'actor'>,
): Promise<void> {
  const row =
    what.document === 'invoice'
      ? await db
          .selectFrom('invoice')
          .select(['version', 'gross'])
          .where('id', '=', what.document_id)
          .executeTakeFirst()
      : await db
          .selectFrom(what.document === 'receipt' ? 'receipt' : ('credit_note' as 'receipt'))
          .select('gross')
          .where('id', '=', what.document_id)
          .executeTakeFirst();
  if (!row) return;
  await db
    .insertInto('handout')
    .values({ ...what, version: 'version' in row ? (row.version as number) : 1, gross: row.gross })
    .execute();
}

export interface SendInput {
  invoice: number;
  to: string;
  message: string;
  /** Where this server is reached from outside: the link begins with it. */
  origin: string;
  books: string;
}

/** Writes the letter that sends an invoice: its PDF and the link to pay it, into the outbox. */
export const sendInvoice: Command<SendInput, { mail: number }> = {
  name: 'send-invoice',
  input: z.object({
    invoice: z.number().int(),
    to: z.email('an email address').max(200),
    message: textInput(4_000),
    origin: z.url().max(200),
    books: z.string().max(80),
  }),
  async run(tx, { invoice, to, message, origin, books }, { now, actor }) {
    const { db } = tx;
    const row = await db.selectFrom('invoice').selectAll().where('id', '=', invoice).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'invoice', id: String(invoice) });
    if (row.journal_id === null) return refuse({ code: 'not-posted', what: 'invoice', name: row.number });
    const settings = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const at = clockOf(settings, now).toISOString();
    const token = await payLinkOf(db, invoice, at);
    const payAt = (of: string) => `${origin}/pay/${books}/${of}`;
    const pdf = (await printedInvoice(db, invoice, payAt))!;
    const open = subtract(row.gross, row.paid);
    const body = [
      ...(message ? [message, ''] : []),
      `Invoice ${row.number} of ${formatDate(row.issued)}: ${formatAmount(open, row.currency)} to pay by ${formatDate(row.due)}.`,
      `See it and pay it here: ${payAt(token)}`,
      '',
      settings.name,
    ].join('\n');
    const { id } = await db
      .insertInto('mail')
      .values({
        made_at: at,
        recipient: to,
        subject: `Invoice ${row.number} from ${settings.name}`,
        body,
        sent_at: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const content = pdf.bytes;
    await db
      .insertInto('mail_attachment')
      .values({ mail_id: id, name: pdf.name, media_type: 'application/pdf', content })
      .execute();
    await noteHandout(tx, {
      document: 'invoice',
      document_id: invoice,
      how: 'mail',
      given_to: to,
      at,
      actor: actor.name,
    });
    return done({ mail: id }, `Sent invoice ${row.number} to ${to}`);
  },
};

/** Hands letters of the outbox on to the mail server, where there is one; without one they stay to be read. */
export async function handOn(books: BooksFile, mail: number, mailer: Mailer): Promise<boolean> {
  const letter = await books.reader.selectFrom('mail').selectAll().where('id', '=', mail).executeTakeFirstOrThrow();
  const attachments = await books.reader
    .selectFrom('mail_attachment')
    .selectAll()
    .where('mail_id', '=', mail)
    .execute();
  const sent = await mailer
    .send({
      to: letter.recipient,
      subject: letter.subject,
      text: letter.body,
      attachments: attachments.map(({ name, media_type: type, content }) => ({ name, type, content })),
    })
    .catch(() => false);
  if (sent) {
    await books.write(
      ({ db }) => db.updateTable('mail').set({ sent_at: new Date().toISOString() }).where('id', '=', mail).execute(),
      () => true,
    );
  }
  return sent;
}
