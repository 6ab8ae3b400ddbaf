declare const minorBrand: unique symbol;

/**
 * An amount of money in minor units (cents, pence, yen) of a currency that stands beside it. Always a safe integer;
 * the sign says the direction where one is meant (a debit is positive, a credit negative).
 */
export type Minor = number & { readonly [minorBrand]: 'Minor' };

/** The largest amount taken in from outside, in minor units: far past any receivable, far below 2^53. */
export const LARGEST_MINOR = 900_000_000_000_000;

export const ZERO = 0 as Minor;

/**
 * Takes a number as minor units.
 * @throws RangeError where it is no safe integer: a fraction of a cent here is a bug, never an input error.
 */
export function minor(value: number): Minor {
  if (Number.isSafeInteger(value)) return (value === 0 ? 0 : value) as Minor;
  throw new RangeError(`minor units must be a safe integer, got ${value}`);
}

export function add(a: Minor, b: Minor): Minor {
  return minor(a + b);
}

export function subtract(a: Minor, b: Minor): Minor {
  return minor(a - b);
}

export function negate(a: Minor): Minor {
  return minor(-a);
}

export function sum(amounts: Iterable<Minor>): Minor {
  let total = 0;
  for (const amount of amounts) total += amount;
  return minor(total);
}
