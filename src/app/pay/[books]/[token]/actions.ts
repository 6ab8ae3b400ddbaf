'use server';

import { askedToday, invoiceOfToken } from '@/books/paying/pay-page';
import { refusalWords } from '@/books/command';
import { todayOf } from '@/books/setup/today';
import type { Answer } from '../../../server/answer';
import { openBooks } from '../../../server/books';
import { origin } from '../../../server/fetching';
import { begin } from '../../../server/paying';
import { cameFrom, tooOften } from '../../../server/rate-limit';

const refused = (what: string, next: string): Answer<never> => ({ ok: false, code: 'not-found', what, next });

/** Begins the payment of what an invoice asks for now. The page says nothing of the amount: it is worked out here. */
export async function payNow(books: string, token: string): Promise<Answer<{ pay: string }>> {
  if (await tooOften('begin', await cameFrom()))
    return refused('This was asked too often.', 'Wait a minute and try again.');
  const file = openBooks(books);
  const now = new Date();
  const found = await file.read(async (db) => {
    const invoice = await invoiceOfToken(db, token);
    if (invoice === null) return null;
    const settings = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const row = await db
      .selectFrom('invoice')
      .innerJoin('payer', 'payer.id', 'invoice.payer_id')
      .select(['number', 'invoice.credited', 'invoice.gross', 'payer.name', 'payer.email'])
      .where('invoice.id', '=', invoice)
      .executeTakeFirstOrThrow();
    const { n } = await db
      .selectFrom('payment')
      .select((e) => e.fn.countAll<number>().as('n'))
      .where('purpose', '=', 'invoice')
      .where('purpose_id', '=', invoice)
      .where((e) =>
        e.exists(
          e
            .selectFrom('receipt')
            .select('receipt.id')
            .whereRef('receipt.channel_id', '=', 'payment.channel_id')
            .whereRef('receipt.external_id', '=', 'payment.external_id'),
        ),
      )
      .executeTakeFirstOrThrow();
    const { asked } = await askedToday(db, invoice, todayOf(settings, now));
    return { invoice, row, asked: row.credited >= row.gross ? 0 : asked, settings, come: n };
  });
  if (!found) return refused('There is nothing to pay here.', 'Ask who sent you the link.');
  const { invoice, row, asked, settings, come } = found;
  if (asked <= 0) {
    return { ok: false, code: 'nothing-asked', ...refusalWords({ code: 'nothing-asked', invoice: row.number }) };
  }
  return begin(
    books,
    {
      purpose: 'invoice',
      id: invoice,
      amount: asked as never,
      // Until money comes, paying again is the same payment; afterwards the rest is another.
      reference: `${row.number}/${come + 1}/${asked}`,
      channel: null,
      checkout: {
        title: `Invoice ${row.number} of ${settings.name}`,
        document: row.number,
        item: '',
        note: '',
        fund: '',
        payer: { name: row.name, email: row.email },
        every: 'once',
      },
    },
    `${origin()}/pay/${books}/${token}?back=1`,
  );
}
