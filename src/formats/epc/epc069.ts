/** What a bank's app needs to fill a transfer in. The amount is in cents. */
export interface TransferToPay {
  readonly name: string;
  readonly iban: string;
  /** Empty is allowed within the European Economic Area. */
  readonly bic: string;
  readonly cents: number;
  readonly remittance: string;
}

const BYTES = 331;

const plain = (text: string, longest: number) =>
  text
    .replace(/[\r\n]+/g, ' ')
    .trim()
    .slice(0, longest);

/**
 * The text of a QR code for a SEPA transfer in euro (EPC069-12 version 2, service tag BCD, version 002, UTF-8), unstructured
 * remittance. Null where such a code cannot say it: no amount from 0.01 to 999,999,999.99, or too long.
 */
export function transferCode({ name, iban, bic, cents, remittance }: TransferToPay): string | null {
  if (!Number.isSafeInteger(cents) || cents < 1 || cents > 99_999_999_999) return null;
  const amount = `EUR${Math.floor(cents / 100)}.${String(cents % 100).padStart(2, '0')}`;
  const fields = [
    'BCD',
    '002',
    '1',
    'SCT',
    bic.replace(/\s/g, ''),
    plain(name, 70),
    iban.replace(/\s/g, ''),
    amount,
    '',
    '',
    plain(remittance, 140),
  ];
  const text = fields.join('\n');
  return new TextEncoder().encode(text).length <= BYTES ? text : null;
}
