import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Dimensions } from '@/core/ledger';
import { LARGEST_MINOR, type Minor } from '@/core/money';
import { plainDateInput } from '../command/plain-date-input';

const id = z.number().int().positive();
/** Text that people write: control characters are taken out, so that nothing can turn a line of print around. */
export const textInput = (longest: number) =>
  z
    .string()
    .max(longest)
    .transform((text) => cleanText(text).trim());
export const amountInput = z.custom<Minor>(
  (value) => Number.isSafeInteger(value) && Math.abs(value as number) <= LARGEST_MINOR,
  'an amount',
);
const dimensionsInput = z.array(z.tuple([id, id])).max(10) as unknown as z.ZodType<Dimensions>;

/** Controls, and the marks that override the direction of what follows them; letters of every script stay. */
export function cleanText(text: string): string {
  // eslint-disable-next-line no-control-regex
  return text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f-\u009f\u202a-\u202e\u2066-\u2069\ufeff]/g, '');
}

export const billLineInput = z.object({
  item: id,
  description: textInput(500),
  /** Thousandths. */
  quantity: z.number().int().min(-1_000_000_000).max(1_000_000_000),
  /** Net price of one. */
  price: amountInput,
  /** Basis points. */
  discount: z.number().int().min(0).max(10_000),
  taxCode: id,
  dimensions: dimensionsInput,
});

/** What an invoice says, as it is written, issued, planned and corrected. */
export const billInput = z.object({
  payer: id.nullable(),
  issued: plainDateInput,
  /** Null leaves it to the terms. */
  due: plainDateInput.nullable(),
  terms: id.nullable(),
  /** The payer's own: an order number, a name. */
  reference: textInput(60),
  note: textInput(2_000),
  privateNote: textInput(2_000),
  lines: z.array(billLineInput).max(500),
});

export type BillInput = {
  payer: number | null;
  issued: PlainDate;
  due: PlainDate | null;
  terms: number | null;
  reference: string;
  note: string;
  privateNote: string;
  lines: {
    item: number;
    description: string;
    quantity: number;
    price: Minor;
    discount: number;
    taxCode: number;
    dimensions: Dimensions;
  }[];
};
