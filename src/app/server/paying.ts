import 'server-only';
import { HttpDoor } from '@/adapters/channel-door';
import { PATIENCE } from '@/adapters/patience';
import { beginPayment, type PaymentWanted } from '@/books/paying/begin';
import { answer, type Answer } from './answer';
import { openBooks } from './books';
import { origin } from './fetching';

/** A payer waits: a channel that is not well is not asked for minutes. */
const SHORT = { ...PATIENCE, tries: 3, timeout: 8_000 };

/** Begins a payment from a public page, and gives the address that the payer is sent to. */
export async function begin(books: string, wanted: PaymentWanted, returnTo: string): Promise<Answer<{ pay: string }>> {
  return answer(
    await beginPayment(openBooks(books), wanted, {
      door: (address, secret) => new HttpDoor(new URL(address, origin()), secret, SHORT),
      now: new Date(),
      returnTo,
      notify: (channel) => `${origin()}/api/books/${books}/channels/${channel}/events`,
    }),
  );
}
