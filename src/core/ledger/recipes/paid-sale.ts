import { add, subtract, sum, taxWithin, ZERO, type BasisPoints, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import { credit, debit, entryOf, inForeign, type Dimensions, type Entry, type ForeignAmount } from '../entry';

/** One thing sold, given or collected for, and where it lands. Amounts in minor units, tax included. */
export interface SaleLine {
  /** What was paid for it, after any discount. */
  readonly price: Minor;
  /** What was given off its list price. */
  readonly discount: Minor;
  readonly income: AccountId;
  readonly because: Because;
  /** Null where no tax is due: gifts, and what a tax code is not asked of. */
  readonly tax: {
    readonly account: AccountId;
    readonly code: string;
    readonly rate: BasisPoints;
    readonly because: Because;
    /** The source's own figure, which stands; null where it is worked out from the rate. */
    readonly given: Minor | null;
  } | null;
  readonly dimensions?: Dimensions;
}

/** Where money came in: a channel's clearing account, a cash box, a card brand's part of a till's day. */
export interface Tender {
  readonly account: AccountId;
  readonly amount: Minor;
  readonly because: Because;
  /** The same in the channel's currency, where that is another. */
  readonly foreign?: ForeignAmount;
}

export interface PaidSale {
  readonly tenders: readonly Tender[];
  readonly lines: readonly SaleLine[];
  readonly tip: Minor;
  readonly tipsPayable: AccountId;
  /** Where discounts are booked; asked for only where a line has one. */
  readonly discounts: AccountId | null;
}

/** The tax in the price of a line: the source's own figure, else by the rate of its code. */
export function taxOfSale({ price, tax }: Pick<SaleLine, 'price' | 'tax'>): Minor {
  return tax === null ? ZERO : (tax.given ?? taxWithin(price, tax.rate));
}

/**
 * Recipes 3, 4 and 17, paid sale and gift: Dr what came in (clearing, cash; price and tip) and discounts; Cr income per
 * line, sales tax, tips payable. Prices include their tax; a tip carries none. With a discount income stays gross: the
 * tax is that of what was paid, and the discount bears the rest of the difference.
 * @throws Error where tenders do not make prices and tip, or a discount has no account: checked before by whoever asks.
 */
export function paidSale({ tenders, lines, tip, tipsPayable, discounts }: PaidSale): Entry {
  const sold = lines.map((line) => {
    const tax = taxOfSale(line);
    const ofList =
      line.discount === 0 || line.tax === null ? tax : taxWithin(add(line.price, line.discount), line.tax.rate);
    const discount = line.discount === 0 ? ZERO : subtract(line.discount, subtract(ofList, tax));
    return { line, tax, discount, income: subtract(add(line.price, discount), tax) };
  });
  if (discounts === null && sum(sold.map(({ discount }) => discount)) !== ZERO) throw new Error('no discount account');
  return entryOf(
    tenders.flatMap(({ account, amount, because, foreign }) =>
      inForeign(debit(account, amount, because), account, foreign ?? null),
    ),
    sold.flatMap(({ line, discount }) => debit(discounts!, discount, { why: 'discount' }, line.dimensions)),
    sold.flatMap(({ line, income }) => credit(line.income, income, line.because, line.dimensions)),
    sold.flatMap(({ line, tax }) => (line.tax === null ? [] : credit(line.tax.account, tax, line.tax.because))),
    credit(tipsPayable, tip, { why: 'tip' }),
  );
}
