import { decimalsOf, type Currency } from './currency';
import type { Minor } from './minor';

/** A true minus, so that figures in a column keep their width. */
const MINUS = '\u2212';

function parts(amount: Minor, currency: Currency): { whole: string; fraction: string } {
  const decimals = decimalsOf(currency);
  const digits = Math.abs(amount)
    .toString()
    .padStart(decimals + 1, '0');
  return {
    whole: decimals === 0 ? digits : digits.slice(0, -decimals),
    fraction: decimals === 0 ? '' : digits.slice(-decimals),
  };
}

/** For people: "1,204.50", "−0.02". The currency itself is not written: the column or the sentence says it. */
export function formatAmount(amount: Minor, currency: Currency): string {
  const { whole, fraction } = parts(amount, currency);
  const grouped = whole.replace(/\B(?=(\d{3})+$)/g, ',');
  return (amount < 0 ? MINUS : '') + grouped + (fraction && `.${fraction}`);
}

/** For files: "1204.50", "-0.02": what {@link parseAmount} reads back to the same amount. */
export function writeAmount(amount: Minor, currency: Currency): string {
  const { whole, fraction } = parts(amount, currency);
  return (amount < 0 ? '-' : '') + whole + (fraction && `.${fraction}`);
}

/** Basis points as a percentage: 1350 is "13.5 %". */
export function formatPercent(basisPoints: number): string {
  return `${basisPoints / 100} %`;
}
