import { subtract, taxWithin, type BasisPoints, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import { credit, debit, entryOf, type Entry } from '../entry';

export interface PaidSale {
  readonly channel: string;
  readonly clearing: AccountId;
  /** All that was collected, tax and tip included, in minor units. */
  readonly gross: Minor;
  readonly tip: Minor;
  readonly tipsPayable: AccountId;
  readonly income: AccountId;
  readonly incomeBecause: Because;
  readonly tax: { readonly account: AccountId; readonly code: string; readonly rate: BasisPoints };
}

/**
 * Recipe 3, paid sale: Dr clearing (gross and tip); Cr income (net), sales tax, tips payable. The price includes its
 * tax; a tip carries none.
 */
export function paidSale(event: PaidSale): Entry {
  const price = subtract(event.gross, event.tip);
  const tax = taxWithin(price, event.tax.rate);
  return entryOf(
    debit(event.clearing, event.gross, { why: 'held-by-channel', channel: event.channel }),
    credit(event.income, subtract(price, tax), event.incomeBecause),
    credit(event.tax.account, tax, { why: 'tax-code', code: event.tax.code, rate: event.tax.rate }),
    credit(event.tipsPayable, event.tip, { why: 'tip' }),
  );
}
