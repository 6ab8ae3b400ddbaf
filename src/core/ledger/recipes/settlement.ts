import { add, sum, ZERO, type Minor } from '../../money';
import type { AccountId } from '../account';
import { credit, debit, entryOf, type Entry, type EntryLine } from '../entry';

/** What an early payment takes off, by tax (recipe 13). Amounts in minor units. */
export interface DiscountShare {
  readonly net: Minor;
  readonly tax: Minor;
  readonly taxAccount: AccountId;
  readonly taxCode: string;
  readonly rate: number;
}

/** One invoice that is settled, and by what. Amounts in minor units. */
export interface Settled {
  readonly document: string;
  /** By money. */
  readonly amount: Minor;
  /** By discounts for early payment. */
  readonly discount: readonly DiscountShare[];
  /** By writing a small remainder off (recipe 24). */
  readonly writtenOff: Minor;
}

/** All that one settlement takes off the receivable. */
export function settledWhole({ amount, discount, writtenOff }: Settled): Minor {
  return add(add(amount, writtenOff), sum(discount.map(({ net, tax }) => add(net, tax))));
}

/** Recipe 13, early-payment discount: Dr discounts (net part), Dr sales tax (its part). The receivable is credited by others. */
export function discountLines(shares: readonly DiscountShare[], discounts: AccountId): EntryLine[] {
  return shares.flatMap(({ net, tax, taxAccount, taxCode, rate }) => [
    ...debit(discounts, net, { why: 'early-discount' }),
    ...debit(taxAccount, tax, { why: 'early-discount-tax', code: taxCode, rate }),
  ]);
}

export interface CreditApplied {
  readonly payerCredit: AccountId;
  readonly receivable: AccountId;
  /** Needed where a discount is taken. */
  readonly discounts: AccountId | null;
  /** Needed where something is written off. */
  readonly rounding: AccountId | null;
  readonly settled: readonly Settled[];
}

/**
 * A payer's credit put to invoices (recipe 12's credit used), with recipe 13 for discounts and 24 for small remainders:
 * Dr payer credit, discounts, sales tax, rounding; Cr receivable per invoice.
 * @throws Error where a discount or a remainder has no account: checked before by whoever asks.
 */
export function creditApplied({ payerCredit, receivable, discounts, rounding, settled }: CreditApplied): Entry {
  const taken = settled.flatMap(({ discount }) => discount);
  const written = sum(settled.map(({ writtenOff }) => writtenOff));
  if ((taken.length > 0 && discounts === null) || (written !== ZERO && rounding === null))
    throw new Error('no account');
  return entryOf(
    debit(payerCredit, sum(settled.map(({ amount }) => amount)), { why: 'credit-used' }),
    discounts === null ? [] : discountLines(taken, discounts),
    rounding === null ? [] : debit(rounding, written, { why: 'written-off' }),
    settled.flatMap((one) => credit(receivable, settledWhole(one), { why: 'settles-invoice', document: one.document })),
  );
}
