import { addDays, type PlainDate } from '../calendar';
import { add, minor, shareOf, splitByWeight, subtract, sum, ZERO, type BasisPoints, type Minor } from '../money';

/** When an invoice is to be paid, and what may be taken off for paying early. */
export interface Terms {
  readonly dueDays: number;
  /** Share of the whole invoice, tax included; 0 where nothing may be taken off. */
  readonly discountRate: BasisPoints;
  readonly discountDays: number;
}

export function dueDates(issued: PlainDate, terms: Terms): { due: PlainDate; discountUntil: PlainDate | null } {
  return {
    due: addDays(issued, terms.dueDays),
    discountUntil: terms.discountRate > 0 ? addDays(issued, terms.discountDays) : null,
  };
}

/** What of an invoice an early payment takes off, by tax code. Amounts in minor units. */
export interface DiscountPart {
  readonly taxCode: number;
  readonly net: Minor;
  readonly tax: Minor;
}

export interface EarlyPayment {
  readonly rate: BasisPoints;
  /** The last day on which it may be taken; null where there is none. */
  readonly until: PlainDate | null;
  /** Net and tax of the invoice by tax code. */
  readonly taxed: readonly DiscountPart[];
}

/** The discount on a whole invoice: a share of gross, split over net and tax of each tax code (worked figure E). */
export function discountOf({ rate, taxed }: Pick<EarlyPayment, 'rate' | 'taxed'>): {
  readonly amount: Minor;
  readonly parts: readonly DiscountPart[];
} {
  const gross = sum(taxed.map(({ net, tax }) => add(net, tax)));
  const amount = shareOf(gross, rate);
  if (amount === ZERO) return { amount, parts: [] };
  const weights = taxed.flatMap(({ net, tax }) => [net, tax]);
  // A tax code whose lines come to less than nothing cannot bear a share.
  const shares = splitByWeight(
    amount,
    weights.map((weight) => minor(Math.max(0, weight))),
  );
  const parts = taxed.map(({ taxCode }, index) => ({
    taxCode,
    net: shares[2 * index]!,
    tax: shares[2 * index + 1]!,
  }));
  return { amount, parts: parts.filter(({ net, tax }) => net !== 0 || tax !== 0) };
}

/**
 * What an invoice asks for on a day, in minor units: what is open, less the discount while that may still be taken. It is
 * taken once, with the payment that settles the rest.
 */
export function askedOn(open: Minor, early: EarlyPayment, day: PlainDate): { asked: Minor; discount: Minor } {
  const none = { asked: open, discount: ZERO };
  if (early.until === null || day > early.until || open <= ZERO) return none;
  const { amount } = discountOf(early);
  return amount < open ? { asked: subtract(open, amount), discount: amount } : none;
}

/** The discount that a payment of a day takes: the whole of it where the payment settles the rest, else none. */
export function discountTaken(payment: Minor, open: Minor, early: EarlyPayment, day: PlainDate): Minor {
  const { asked, discount } = askedOn(open, early, day);
  return payment >= asked && payment < open ? discount : ZERO;
}
