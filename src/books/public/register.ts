import { z } from 'zod';

import { formatDate } from '@/core/calendar';
import { add, type Minor } from '@/core/money';
import type { BillLine } from '@/core/receivables';
import { plural } from '@/core/words';
import { textInput } from '../billing/bill-input';
import { creditInvoice } from '../billing/credit';
import { payLinkOf } from '../billing/hand-out';
import { issueBill } from '../billing/issue';
import { done, refuse, type Command } from '../command';
import { clockOf, todayOf } from '../setup/today';
import type { Reading } from '../store';
import { requestInput } from './give';
import { pageOfToken, placesTaken, type RegistrationContent } from './pages';

export interface RegisterInput {
  token: string;
  request: string;
  /** How many of each ticket, in the order of the page. */
  counts: number[];
  name: string;
  email: string;
}

export const registerInput = z.object({
  token: z.string().max(80),
  request: requestInput,
  counts: z.array(z.number().int().min(0).max(100)).max(20),
  name: textInput(120).pipe(z.string().min(1, 'your name')),
  email: z.email('an email address').max(200),
});

/** A ticket as it is billed, for the page to work out what several come to as their invoice will. */
export type TicketOffered = { readonly name: string } & Pick<BillLine, 'price' | 'taxCode' | 'rate'>;

/** The tickets of a page at the rates of now. */
export async function ticketsOffered(db: Reading, tickets: RegistrationContent['tickets']): Promise<TicketOffered[]> {
  const rates = new Map((await db.selectFrom('tax_code').select(['id', 'rate']).execute()).map((t) => [t.id, t.rate]));
  return tickets.map(({ name, price, taxCode }) => ({ name, price, taxCode, rate: rates.get(taxCode) ?? 0 }));
}

/** The payer of this name and email, also under another name they are known by; made where there is none. */
async function payerFor(db: Reading, name: string, email: string): Promise<number> {
  const same = await db
    .selectFrom('payer')
    .select(['id', 'name'])
    .where('email', '=', email)
    .where('merged_into', 'is', null)
    .orderBy('id')
    .execute();
  const known = await db
    .selectFrom('payer_alias')
    .select('payer_id as id')
    .where('email', '=', email)
    .where('name', 'in', ['', name])
    .executeTakeFirst();
  const exact = same.find((payer) => payer.name.toLowerCase() === name.toLowerCase());
  if (exact) return exact.id;
  if (known) return known.id;
  return (await db.insertInto('payer').values({ name, email }).returning('id').executeTakeFirstOrThrow()).id;
}

export interface Registered {
  readonly registration: number;
  readonly invoice: number | null;
  /** The token of the invoice's own page; null where nothing is to pay. */
  readonly payToken: string | null;
}

/**
 * Registers somebody: finds or makes the payer, and issues the invoice that the payment will meet. Sent off twice, or again after
 * going back, it is the same registration and the same invoice. Places are counted in the same transaction.
 */
export const register: Command<RegisterInput, Registered> = {
  name: 'register',
  input: registerInput,
  async run(tx, { token, request, counts, name, email: typed }, context) {
    const { db } = tx;
    const email = typed.toLowerCase();
    const page = await pageOfToken(db, token);
    if (!page || page.offer.kind !== 'registration')
      return refuse({ code: 'not-found', what: 'registration page', id: '' });
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const at = clockOf(books, context.now).toISOString();
    const there = await db.selectFrom('registration').selectAll().where('request', '=', request).executeTakeFirst();
    if (there) {
      const payToken = there.invoice_id === null ? null : await payLinkOf(db, there.invoice_id, at);
      return done({ registration: there.id, invoice: there.invoice_id, payToken }, null);
    }
    if (!page.open) return refuse({ code: 'page-closed', title: page.title });
    const { offer } = page;
    const places = counts.reduce((all, count) => all + count, 0);
    if (counts.length !== offer.tickets.length || places === 0)
      return refuse({ code: 'invalid-input', field: 'tickets', expected: 'at least one' });
    const left = offer.places - (await placesTaken(db, page.id));
    if (places > left) return refuse({ code: 'places-gone', event: page.title, left: Math.max(0, left) });
    const payer = await payerFor(db, name, email);
    const today = todayOf(books, context.now);
    const lines = offer.tickets.flatMap((ticket, index) =>
      counts[index]! === 0
        ? []
        : [
            {
              item: ticket.item,
              description: `${page.title}, ${formatDate(offer.day)}: ${ticket.name}`.slice(0, 500),
              quantity: counts[index]! * 1000,
              price: ticket.price,
              discount: 0,
              taxCode: ticket.taxCode,
              dimensions: [],
            },
          ],
    );
    const free = lines.every(({ price }) => price === 0);
    let invoice: number | null = null;
    if (!free) {
      const bill = { payer, issued: today, due: today, terms: null, reference: '', note: '', privateNote: '', lines };
      const issued = await issueBill(tx, bill, context);
      if ('refusal' in issued) return issued;
      invoice = issued.invoice;
    }
    const { id } = await db
      .insertInto('registration')
      .values({
        page_id: page.id,
        payer_id: payer,
        invoice_id: invoice,
        places,
        request,
        content: JSON.stringify({ counts, name, email }),
        made_at: at,
        given_up_at: null,
      })
      .returning('id')
      .executeTakeFirstOrThrow();
    const payToken = invoice === null ? null : await payLinkOf(db, invoice, at);
    return done(
      { registration: id, invoice, payToken },
      `${name} registered for ${page.title}, ${plural(places, 'place')}`,
    );
  },
};

export interface RegistrationRow {
  readonly id: number;
  readonly name: string;
  readonly email: string;
  readonly places: number;
  readonly invoice: { readonly id: number; readonly number: string; readonly open: Minor } | null;
  readonly givenUp: boolean;
}

/** Who registered on a page, the newest first. */
export async function listRegistrations(db: Reading, page: number): Promise<RegistrationRow[]> {
  const rows = await db
    .selectFrom('registration')
    .leftJoin('invoice', 'invoice.id', 'registration.invoice_id')
    .select(['registration.id', 'content', 'places', 'given_up_at', 'invoice.id as invoice', 'number', 'gross', 'paid'])
    .where('page_id', '=', page)
    .orderBy('registration.id', 'desc')
    .limit(500)
    .execute();
  return rows.map((row) => {
    const { name, email } = JSON.parse(row.content) as { name: string; email: string };
    return {
      id: row.id,
      name,
      email,
      places: row.places,
      invoice:
        row.invoice === null
          ? null
          : { id: row.invoice, number: row.number!, open: add(row.gross!, (0 - row.paid!) as Minor) },
      givenUp: row.given_up_at !== null,
    };
  });
}

/** Gives a registration up: its places are free again, and its invoice is taken back. What was paid stays with the payer. */
export const giveUpRegistration: Command<{ registration: number }, null> = {
  name: 'give-up-registration',
  input: z.object({ registration: z.number().int() }),
  async run(tx, { registration }, context) {
    const { db } = tx;
    const row = await db.selectFrom('registration').selectAll().where('id', '=', registration).executeTakeFirst();
    if (!row || row.given_up_at !== null)
      return refuse({ code: 'not-found', what: 'registration', id: String(registration) });
    if (row.invoice_id !== null) {
      const credited = await creditInvoice.run(
        tx,
        { invoice: row.invoice_id, lines: null, why: 'Registration given up', issued: null },
        context,
      );
      if ('refusal' in credited && credited.refusal.code !== 'nothing-to-credit') return credited;
    }
    await db
      .updateTable('registration')
      .set({ given_up_at: context.now.toISOString() })
      .where('id', '=', registration)
      .execute();
    return done(null, `Gave up a registration, ${plural(row.places, 'place')} free again`);
  },
};
