import { minor, type Minor } from './minor';

/** One hundredth of a percent: 1.9 % is 190. Always an integer. */
export type BasisPoints = number;

const WHOLE = 10_000n;

/** Divides, rounding half away from zero, exactly (the rounding that invoices and fee schedules state). */
function divideHalfAway(numerator: bigint, denominator: bigint): bigint {
  const sign = numerator < 0n !== denominator < 0n ? -1n : 1n;
  const n = numerator < 0n ? -numerator : numerator;
  const d = denominator < 0n ? -denominator : denominator;
  return sign * ((2n * n + d) / (2n * d));
}

/** The share of an amount at a rate, rounded half away from zero: 147.60 at 1.9 % is 2.80. */
export function shareOf(amount: Minor, rate: BasisPoints): Minor {
  const product = amount * rate;
  // Exact in doubles while the product stays a safe integer, which is nearly always; past it, big integers.
  if (Number.isSafeInteger(product * 2)) {
    const rounded = Math.floor((2 * Math.abs(product) + 10_000) / 20_000);
    return minor(product < 0 ? -rounded : rounded);
  }
  return minor(Number(divideHalfAway(BigInt(amount) * BigInt(rate), WHOLE)));
}

/** The tax contained in an amount that includes it: 147.60 at 23 % contains 27.60. Rounded half away from zero. */
export function taxWithin(gross: Minor, rate: BasisPoints): Minor {
  return minor(Number(divideHalfAway(BigInt(gross) * BigInt(rate), WHOLE + BigInt(rate))));
}

/**
 * Splits a total over weights so that the parts add up to it exactly: the largest remainder gets the next unit; among
 * equal remainders the earlier part does.
 * @throws RangeError where the weights are negative or add up to nothing while there is something to split.
 */
export function splitByWeight(total: Minor, weights: readonly Minor[]): Minor[] {
  const whole = weights.reduce((a, b) => a + BigInt(b), 0n);
  if (weights.some((w) => w < 0)) throw new RangeError('weights must not be negative');
  if (whole === 0n) {
    if (total === 0) return weights.map(() => minor(0));
    throw new RangeError(`nothing to split ${total} over`);
  }
  const sign = total < 0 ? -1 : 1;
  const size = BigInt(Math.abs(total));
  const shares = weights.map((weight, index) => {
    const product = size * BigInt(weight);
    return { index, floor: product / whole, remainder: product % whole };
  });
  let left = Number(size - shares.reduce((a, s) => a + s.floor, 0n));
  const inTurn = [...shares].sort((a, b) =>
    a.remainder === b.remainder ? a.index - b.index : a.remainder > b.remainder ? -1 : 1,
  );
  const parts = new Array<number>(weights.length);
  for (const share of inTurn) parts[share.index] = Number(share.floor) + (left-- > 0 ? 1 : 0);
  return parts.map((part) => minor(sign * part));
}
