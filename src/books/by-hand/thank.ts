import { sql } from 'kysely';
import { z } from 'zod';
import { printPdf, type TDocumentDefinitions } from '@/adapters/pdf';
import { formatDate, type PlainDate } from '@/core/calendar';
import { formatAmount, sum, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { letterhead, type Letterhead } from '../billing/document';
import { noteHandout } from '../billing/hand-out';
import { head, headOf, partiesOf, right, RULES } from '../billing/invoice-pdf';
import { done, refuse, type Command } from '../command';
import { payerDetails, type PayerDetails } from '../payers/details';
import { printedReceipt } from '../paying/receipt-pdf';
import { clockOf } from '../setup/today';
import type { Reading } from '../store';

export interface GiftView {
  readonly id: number;
  readonly reference: string;
  readonly date: PlainDate;
  readonly payerId: number | null;
  readonly payer: string;
  readonly email: string;
  readonly fund: string;
  readonly amount: Minor;
  readonly thanked: 0 | 1;
}

const GIFTS = sql`
  SELECT r.id, r.external_id AS reference, r.book_date AS date, r.payer_id AS payerId, coalesce(p.name, '') AS payer,
    coalesce(p.email, '') AS email, r.fund, r.gross AS amount,
    EXISTS (SELECT 1 FROM handout h WHERE h.document = 'receipt' AND h.document_id = r.id) AS thanked
  FROM receipt r LEFT JOIN payer p ON p.id = r.payer_id
  WHERE r.fund <> '' AND r.kind = 'receipt' AND r.aside IS NULL`;

export const GIFTS_SHOWN = 200;

/** Gifts, the newest first; only those not acknowledged where that is asked. */
export async function listGifts(db: Reading, waiting: boolean): Promise<{ rows: GiftView[]; count: number }> {
  const of = waiting ? sql`SELECT * FROM (${GIFTS}) WHERE thanked = 0 AND email <> ''` : sql`SELECT * FROM (${GIFTS})`;
  const { rows } = await sql<GiftView>`${of} ORDER BY date DESC, id DESC LIMIT ${GIFTS_SHOWN}`.execute(db);
  const { rows: counted } = await sql<{ n: number }>`SELECT count(*) AS n FROM (${of})`.execute(db);
  return { rows, count: counted[0]!.n };
}

/** Writes an acknowledgement for each gift whose donor has an email, with its receipt; those that have one get none again. */
export const thankForGifts: Command<{ receipts: number[] }, { mails: number[] }> = {
  name: 'thank-for-gifts',
  input: z.object({ receipts: z.array(z.number().int()).min(1).max(500) }),
  async run(tx, { receipts }, { now, actor }) {
    const { db } = tx;
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const at = clockOf(books, now).toISOString();
    const { rows } = await sql<GiftView>`
      SELECT * FROM (${GIFTS}) WHERE id IN (SELECT value FROM json_each(${JSON.stringify(receipts)}))
        AND thanked = 0 AND email <> '' ORDER BY id
    `.execute(db);
    if (rows.length === 0)
      return refuse({ code: 'not-found', what: 'gift with an email that waits for thanks', id: '' });
    const mails: number[] = [];
    for (const gift of rows) {
      const money = `${formatAmount(gift.amount, books.currency)} ${books.currency}`;
      const body = [
        `Dear ${gift.payer},`,
        '',
        `thank you for your gift of ${money} on ${formatDate(gift.date)} for ${gift.fund}.`,
        'Your receipt goes along with this letter.',
        '',
        books.name,
      ].join('\n');
      const { id } = await db
        .insertInto('mail')
        .values({ made_at: at, recipient: gift.email, subject: `Thank you, ${books.name}`, body, sent_at: null })
        .returning('id')
        .executeTakeFirstOrThrow();
      const pdf = (await printedReceipt(db, gift.id, null))!;
      await db
        .insertInto('mail_attachment')
        .values({ mail_id: id, name: pdf.name, media_type: 'application/pdf', content: pdf.bytes })
        .execute();
      await noteHandout(tx, {
        document: 'receipt',
        document_id: gift.id,
        how: 'mail',
        given_to: gift.email,
        at,
        actor: actor.name,
      });
      mails.push(id);
    }
    return done({ mails }, `Thanked for ${plural(rows.length, 'gift')}`);
  },
};

/** What a donor gave in a year, by fund. Minor units. */
export async function giftsOfYear(db: Reading, payer: number, year: number): Promise<GiftView[]> {
  const { rows } = await sql<GiftView>`
    SELECT * FROM (${GIFTS}) WHERE payerId = ${payer} AND date BETWEEN ${`${year}-01-01`} AND ${`${year}-12-31`}
    ORDER BY date, id LIMIT 5000
  `.execute(db);
  return rows;
}

export function yearPage(
  from: Letterhead,
  to: PayerDetails,
  year: number,
  gifts: readonly GiftView[],
): TDocumentDefinitions {
  const money = (amount: Minor) => formatAmount(amount, from.currency);
  return {
    info: { title: `Gifts in ${year}, ${to.name}`, author: from.name },
    content: [
      headOf(from, `Gifts in ${year}`),
      partiesOf(to, [['Given in all', `${money(sum(gifts.map(({ amount }) => amount)))} ${from.currency}`]]),
      {
        table: {
          headerRows: 1,
          widths: ['auto', '*', 'auto', 'auto'],
          body: [
            [head('Date'), head('For'), head('Receipt'), head('Amount', 'right')],
            ...gifts.map((gift) => [formatDate(gift.date), gift.fund, gift.reference, right(money(gift.amount))]),
          ],
        },
        layout: RULES,
      },
    ],
  };
}

/** A donor's statement for a year as PDF; null where they gave nothing. */
export async function printedYear(
  db: Reading,
  payer: number,
  year: number,
): Promise<{ name: string; bytes: Uint8Array } | null> {
  const details = await payerDetails(db, payer);
  const gifts = details ? await giftsOfYear(db, payer, year) : [];
  if (!details || gifts.length === 0) return null;
  return { name: `gifts-${year}.pdf`, bytes: await printPdf(yearPage(await letterhead(db), details, year, gifts)) };
}
