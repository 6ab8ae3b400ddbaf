import type { AccountId } from '@/core/ledger';
import type { Reading } from '../store';

/** What a channel's entries need beside what the map decides. */
export interface ChannelParts {
  readonly clearing: AccountId;
  readonly refunds: AccountId;
  readonly tipsPayable: AccountId;
  readonly discounts: AccountId | null;
  readonly chargebacks: AccountId | null;
  /** What it collects are debits, and what comes back of them is returned. */
  readonly byDebit: boolean;
  /** Debits count as paid once they are in a payout, on its day. */
  readonly whenCollected: boolean;
}

/** What every channel of the books has for its entries, by its id. */
export async function channelParts(db: Reading): Promise<ReadonlyMap<number, ChannelParts>> {
  const channels = await db.selectFrom('channel').selectAll().execute();
  return new Map(
    channels.map((channel) => [
      channel.id,
      {
        clearing: channel.clearing_account_id,
        refunds: channel.refund_account_id,
        tipsPayable: channel.tips_account_id,
        discounts: channel.discount_account_id,
        chargebacks: channel.chargeback_account_id,
        byDebit: channel.kind === 'debit-bureau',
        whenCollected: channel.kind === 'debit-bureau' && channel.paid_when === 'collected',
      },
    ]),
  );
}
