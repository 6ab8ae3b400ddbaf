import { negate, type Minor } from '../../money';
import type { AccountId } from '../account';
import { credit, debit, entryOf, type Entry } from '../entry';

export interface ChannelFee {
  readonly channel: string;
  readonly clearing: AccountId;
  readonly fees: AccountId;
  /** What the channel takes, in minor units; negative where it gives a fee back. */
  readonly fee: Minor;
}

/** Recipe 5, channel fee on a receipt: Dr fees; Cr clearing. Recipe 7, fee given back: Dr clearing; Cr fees. */
export function channelFee(event: ChannelFee): Entry {
  const { channel, clearing, fees, fee } = event;
  if (fee < 0) {
    const because = { why: 'fee-given-back', channel } as const;
    return entryOf(debit(clearing, negate(fee), because), credit(fees, negate(fee), because));
  }
  const because = { why: 'fee-in-export', channel } as const;
  return entryOf(debit(fees, fee, because), credit(clearing, fee, because));
}
