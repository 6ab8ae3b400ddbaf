import type { PayingDoor } from '@/adapters/channel-door';
import { DoorShut } from '@/adapters/patience';
import type { Minor } from '@/core/money';
import type { WireCheckout } from '@/formats/movements/wire';
import type { Result } from '../command';
import type { BooksFile, PaymentTable, Reading } from '../store';

/** What a payment begun on a public page is for. */
export interface PaymentWanted {
  readonly purpose: PaymentTable['purpose'];
  readonly id: number;
  readonly amount: Minor;
  /** The same reference is the same payment. */
  readonly reference: string;
  readonly channel: number | null;
  readonly checkout: Pick<WireCheckout, 'title' | 'document' | 'item' | 'note' | 'fund' | 'payer' | 'every'>;
}

export interface PayingOptions {
  readonly door: (address: string, secret: string) => PayingDoor;
  readonly now: Date;
  readonly returnTo: string;
  readonly notify: (channel: number) => string;
}

/** The channel that takes payments over the network: the one asked for, else the first card desk that is connected. */
export async function payingChannel(db: Reading, channel: number | null) {
  let query = db
    .selectFrom('connection')
    .innerJoin('channel', 'channel.id', 'connection.channel_id')
    .select(['channel.id', 'channel.name', 'channel.currency', 'address', 'secret']);
  query =
    channel === null
      ? query.where('channel.kind', 'in', ['card-desk', 'giving-page'])
      : query.where('channel.id', '=', channel);
  return query.orderBy('channel.id').executeTakeFirst();
}

/**
 * Begins a payment: the channel is asked to take it, the books remember which receipt will be it, and the payer is sent where
 * the channel says. What is to be paid is worked out here; nothing of it comes from the page.
 */
export async function beginPayment(
  books: BooksFile,
  wanted: PaymentWanted,
  options: PayingOptions,
): Promise<Result<{ readonly pay: string }>> {
  const { currency } = await books.reader.selectFrom('books').select('currency').executeTakeFirstOrThrow();
  const channel = await payingChannel(books.reader, wanted.channel);
  if (!channel || channel.currency !== currency) {
    return { ok: false, refusal: { code: 'no-pay-door', channel: channel?.name ?? 'No channel' } };
  }
  let made;
  try {
    made = await options.door(channel.address, channel.secret).checkout({
      ...wanted.checkout,
      reference: wanted.reference,
      amount: wanted.amount,
      currency,
      returnTo: options.returnTo,
      notify: options.notify(channel.id),
    });
  } catch (error) {
    if (!(error instanceof DoorShut)) throw error;
    return { ok: false, refusal: { code: 'no-pay-door', channel: channel.name } };
  }
  const row = {
    reference: wanted.reference,
    channel_id: channel.id,
    purpose: wanted.purpose,
    purpose_id: wanted.id,
    amount: wanted.amount,
    begun_at: options.now.toISOString(),
    external_id: made.receipt,
  };
  await books.write(
    ({ db }) =>
      db
        .insertInto('payment')
        .values(row)
        .onConflict((c) => c.doNothing())
        .execute(),
    () => true,
  );
  return { ok: true, value: { pay: made.pay }, change: null };
}
