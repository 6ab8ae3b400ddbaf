import type { FeeSteps } from '@/core/channels';
import type { AccountId } from '@/core/ledger';
import { feeStepsOf } from '../channels/fee-steps';
import type { Reading } from '../store';

/** Where what a channel holds and takes is booked, and what it takes. */
export interface ChannelBooking {
  readonly name: string;
  readonly clearing: AccountId;
  readonly fees: AccountId;
  readonly fx: AccountId | null;
  readonly takes: FeeSteps;
}

/** Every channel of the books, by its id. */
export type ChannelBookings = ReadonlyMap<number, ChannelBooking>;

export async function channelBookings(db: Reading): Promise<ChannelBookings> {
  const channels = await db.selectFrom('channel').selectAll().execute();
  const steps = await feeStepsOf(db);
  return new Map(
    channels.map((channel) => [
      channel.id,
      {
        name: channel.name,
        clearing: channel.clearing_account_id,
        fees: channel.fee_account_id,
        fx: channel.fx_account_id,
        takes: steps.get(channel.id)!,
      },
    ]),
  );
}

/** The account of what is owed by payers. */
export async function receivableOf(db: Reading): Promise<AccountId> {
  const row = await db.selectFrom('account').select('id').where('role', '=', 'receivable').executeTakeFirstOrThrow();
  return row.id;
}
