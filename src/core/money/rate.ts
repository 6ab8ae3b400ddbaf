import { minor, type Minor } from './minor';
import { decimalsOf, type Currency } from './currency';

declare const rateBrand: unique symbol;

/**
 * What one unit of a currency is worth in another, in millionths: 1.1700 is 1,170,000. Always a positive safe integer.
 */
export type Rate = number & { readonly [rateBrand]: 'Rate' };

const DIGITS = 6;
const UNIT = 1_000_000n;

/** Reads a plain decimal of up to six decimals as a rate; null where it is none, or not above zero. */
export function parseRate(text: string): Rate | null {
  const match = /^(\d{1,9})(?:\.(\d{1,6}))?$/.exec(text.trim());
  if (!match) return null;
  const rate = Number(match[1]! + (match[2] ?? '').padEnd(DIGITS, '0'));
  return rate > 0 ? (rate as Rate) : null;
}

/** A rate as it is written: at least four decimals, at most six. */
export function formatRate(rate: Rate): string {
  const digits = String(rate).padStart(DIGITS + 1, '0');
  const fraction = digits.slice(-DIGITS).replace(/0{1,2}$/, '');
  return `${digits.slice(0, -DIGITS)}.${fraction}`;
}

/**
 * An amount of one currency in another at a rate, rounded half away from zero: 200.00 at 1.1700 is 234.00. Currencies with
 * other decimals are scaled. Minor units in, minor units out.
 */
export function atRate(amount: Minor, rate: Rate, from: Currency, to: Currency): Minor {
  const scale = decimalsOf(to) - decimalsOf(from);
  let numerator = BigInt(Math.abs(amount)) * BigInt(rate);
  let denominator = UNIT;
  if (scale > 0) numerator *= 10n ** BigInt(scale);
  else denominator *= 10n ** BigInt(-scale);
  const rounded = Number((2n * numerator + denominator) / (2n * denominator));
  return minor(amount < 0 ? -rounded : rounded);
}
