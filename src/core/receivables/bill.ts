import { add, minor, shareOf, subtract, sum, ZERO, type BasisPoints, type Minor } from '../money';
import { lineTax } from './invoice';

/** One line as it is keyed: what, how many, at what price, what is given off it. */
export interface BillLine {
  /** Thousandths: 2.5 hours are 2500. Below zero takes something off. */
  readonly quantity: number;
  /** Net price of one, minor units. */
  readonly price: Minor;
  readonly discount: BasisPoints;
  readonly taxCode: number;
  readonly rate: BasisPoints;
}

/** What a line comes to, in minor units. */
export interface BilledLine {
  /** What is given off, tax not included. */
  readonly off: Minor;
  readonly net: Minor;
  readonly tax: Minor;
}

/** Quantity times price, rounded half away from zero. Exact: both are integers, and so is their product. */
export function lineAmount(quantity: number, price: Minor): Minor {
  const product = BigInt(quantity) * BigInt(price);
  const size = product < 0n ? -product : product;
  const rounded = Number((size + 500n) / 1000n);
  return minor(product < 0n ? -rounded : rounded);
}

/**
 * Nets and taxes of the lines of an invoice. The tax of a rate is that of all its lines together, rounded once (EN 16931,
 * BR-CO-17); where the taxes of single lines do not come to that, the largest line bears the difference.
 */
export function billLines(lines: readonly BillLine[]): BilledLine[] {
  const billed = lines.map(({ quantity, price, discount, rate }) => {
    const full = lineAmount(quantity, price);
    const off = shareOf(full, discount);
    const net = subtract(full, off);
    return { off, net, tax: lineTax(net, rate) };
  });
  const groups = new Map<string, number[]>();
  for (const [index, { taxCode, rate }] of lines.entries()) {
    const key = `${taxCode}/${rate}`;
    groups.set(key, [...(groups.get(key) ?? []), index]);
  }
  for (const members of groups.values()) {
    const whole = lineTax(sum(members.map((index) => billed[index]!.net)), lines[members[0]!]!.rate);
    const single = sum(members.map((index) => billed[index]!.tax));
    const off = subtract(whole, single);
    if (off === ZERO) continue;
    const largest = members.reduce((best, index) =>
      Math.abs(billed[index]!.net) > Math.abs(billed[best]!.net) ? index : best,
    );
    billed[largest] = { ...billed[largest]!, tax: add(billed[largest]!.tax, off) };
  }
  return billed;
}

/** What so many of each come to, tax included: as an invoice over them will, in minor units. */
export function grossOf(
  things: readonly Pick<BillLine, 'price' | 'taxCode' | 'rate'>[],
  counts: readonly number[],
): Minor {
  const lines = things.map((thing, index) => ({ ...thing, quantity: (counts[index] ?? 0) * 1000, discount: 0 }));
  return sum(billLines(lines).map(({ net, tax }) => add(net, tax)));
}
