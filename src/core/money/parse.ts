import { decimalsOf, type Currency } from './currency';
import { LARGEST_MINOR, type Minor } from './minor';

export type AmountFault = 'empty' | 'not-a-number' | 'too-many-decimals' | 'too-large';

export type ParsedAmount =
  { readonly ok: true; readonly minor: Minor } | { readonly ok: false; readonly fault: AmountFault };

const MINUS = 45;
const PLUS = 43;
const POINT = 46;
const NINE = 57;
const NOUGHT = 48;

/**
 * Reads a plain decimal ("1204.50", "-3", "+0.05") into minor units without passing through a float.
 * There are no thousands separators and the decimal mark is a point: what a file's profile allows beyond that is
 * taken off before. Empty text is a fault, never zero. A currency with fewer decimals than written is a fault.
 */
export function parseAmount(text: string, currency: Currency): ParsedAmount {
  const length = text.length;
  if (length === 0) return { ok: false, fault: 'empty' };
  const decimals = decimalsOf(currency);
  let at = 0;
  let negative = false;
  const first = text.charCodeAt(0);
  if (first === MINUS || first === PLUS) {
    negative = first === MINUS;
    at = 1;
  }
  let value = 0;
  let digits = 0;
  let fraction = -1;
  for (; at < length; at++) {
    const code = text.charCodeAt(at);
    if (code >= NOUGHT && code <= NINE) {
      if (fraction >= 0 && ++fraction > decimals) {
        if (code !== NOUGHT) return { ok: false, fault: 'too-many-decimals' };
        continue;
      }
      value = value * 10 + (code - NOUGHT);
      digits++;
      if (value > LARGEST_MINOR) return { ok: false, fault: 'too-large' };
    } else if (code === POINT && fraction < 0) {
      fraction = 0;
    } else {
      return { ok: false, fault: 'not-a-number' };
    }
  }
  if (digits === 0 || fraction === 0) return { ok: false, fault: 'not-a-number' };
  for (let missing = decimals - Math.max(0, Math.min(fraction, decimals)); missing > 0; missing--) value *= 10;
  if (value > LARGEST_MINOR) return { ok: false, fault: 'too-large' };
  return { ok: true, minor: (negative && value !== 0 ? -value : value) as Minor };
}

/** Reads a plain decimal into thousandths: units sold by the piece or by weight. Null where it is none. */
export function parseThousandths(text: string): number | null {
  const match = /^([-+]?)(\d{1,9})(?:\.(\d{1,3})0*)?$/.exec(text);
  if (!match) return null;
  const size = Number(match[2]) * 1000 + Number((match[3] ?? '').padEnd(3, '0'));
  return match[1] === '-' ? -size || 0 : size;
}

/** Thousandths as they are read: "12", "1.5". */
export function formatUnits(thousandths: number): string {
  return (thousandths / 1000).toLocaleString('en', { maximumFractionDigits: 3 });
}
