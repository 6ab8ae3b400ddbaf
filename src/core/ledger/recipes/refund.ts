import { splitByWeight, subtract, sum, taxWithin, type BasisPoints, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import { credit, debit, entryOf, type Dimensions, type Entry } from '../entry';

export interface Refund {
  /** What gave the money back: the channel's clearing account, or a cash box. */
  readonly from: { readonly account: AccountId; readonly because: Because };
  readonly refunds: AccountId;
  readonly dimensions?: Dimensions;
  /** What went back to the payer, a positive amount in minor units, tip included. */
  readonly amount: Minor;
  readonly tip: Minor;
  readonly tipsPayable: AccountId;
  /** What of it was kept for the payer until now, in minor units: that much is no income given back. */
  readonly fromCredit: Minor;
  readonly payerCredit: AccountId;
  /** The document or receipt it gives back, as text for the reason; empty where the channel does not say. */
  readonly of: string;
  /**
   * How the original was taxed, empty where it was not: one part per tax code, weighted by its gross in minor units. A refund of a part gives
   * back each code's share.
   */
  readonly taxed: readonly {
    readonly account: AccountId;
    readonly code: string;
    readonly rate: BasisPoints;
    readonly weight: Minor;
  }[];
}

/**
 * Recipe 6, refund: Dr refunds (contra income), sales tax part, tip part; Cr clearing. What was kept for the payer (the
 * credit of recipe 12) is paid back from there.
 */
export function refund(event: Refund): Entry {
  const price = subtract(subtract(event.amount, event.tip), event.fromCredit);
  const weights = event.taxed.map((part) => part.weight);
  const shares = weights.length === 0 ? [] : splitByWeight(price, weights);
  const taxes = event.taxed.map((part, index) => ({ part, tax: taxWithin(shares[index]!, part.rate) }));
  return entryOf(
    debit(event.payerCredit, event.fromCredit, { why: 'credit-refunded' }),
    debit(
      event.refunds,
      subtract(price, sum(taxes.map(({ tax }) => tax))),
      { why: 'refund', of: event.of },
      event.dimensions,
    ),
    taxes.flatMap(({ part, tax }) => debit(part.account, tax, { why: 'refund-tax', code: part.code, rate: part.rate })),
    debit(event.tipsPayable, event.tip, { why: 'refund-tip' }),
    credit(event.from.account, event.amount, event.from.because),
  );
}
