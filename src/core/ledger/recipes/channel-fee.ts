import { negate, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import { credit, debit, entryOf, type Entry } from '../entry';

export interface ChannelFee {
  readonly fees: AccountId;
  readonly because: Because;
  /** What the fee is taken out of: where the receipt was deposited. */
  readonly from: AccountId;
  /** What the channel takes, in minor units; negative where it gives a fee back. */
  readonly fee: Minor;
}

/** Recipe 5, channel fee on a receipt: Dr fees; Cr clearing. Recipe 7, fee given back: Dr clearing; Cr fees. */
export function channelFee({ fees, because, from, fee }: ChannelFee): Entry {
  if (fee < 0) return entryOf(debit(from, negate(fee), because), credit(fees, negate(fee), because));
  return entryOf(debit(fees, fee, because), credit(from, fee, because));
}
