import type { KeyedReceipt } from '@/books/by-hand/key-receipt';
import { parsePlainDate } from '@/core/calendar';
import { parseAmount } from '@/core/money';
import type { KeyLists } from './key-lists';

export interface KeyFields {
  /** Position in the list of places. */
  place: string;
  date: string;
  payer: { id: number; name: string } | null;
  reference: string;
  fund: string;
  note: string;
  dimensions: Record<string, string>;
  lines: { item: string; description: string; amount: string }[];
}

export const dimensionsOf = (dimensions: Readonly<Record<string, string>>) =>
  Object.entries(dimensions).flatMap(([dimension, value]) =>
    value === '' ? [] : [[Number(dimension), Number(value)] as const],
  );

/** Dimensions that are asked for beside a gift's fund: one that is called so is the fund itself. */
export const besideFund = (lists: KeyLists) => lists.dimensions.filter(({ name }) => name.toLowerCase() !== 'fund');

/** The value of the dimension for funds that a gift's fund is; none where there is no such dimension or value. */
export function fundDimension(lists: KeyLists, fund: string): [number, number][] {
  const dimension = lists.dimensions.find(({ name }) => name.toLowerCase() === 'fund');
  const value = dimension?.values.find(({ name }) => name.toLowerCase() === fund.trim().toLowerCase());
  return dimension && value ? [[dimension.id, value.id]] : [];
}

/** What was typed as a receipt to key, or the first thing that cannot be read. */
export function readKeyed(
  fields: KeyFields,
  lists: KeyLists,
  gift: boolean,
): { readonly keyed: KeyedReceipt } | { readonly field: string; readonly fault: string } {
  const place = lists.places[Number(fields.place)];
  if (!place) return { field: 'place', fault: 'Choose where it was received.' };
  const date = parsePlainDate(fields.date);
  if (date === null) return { field: 'date', fault: 'Write a date.' };
  const lines: KeyedReceipt['lines'] = [];
  for (const [index, { item, description, amount }] of fields.lines.entries()) {
    if (index > 0 && item === '' && description === '' && amount === '') continue;
    const read = parseAmount(amount.trim(), lists.currency);
    if (!read.ok || read.minor <= 0)
      return { field: `lines.${index}.amount`, fault: `Write an amount in ${lists.currency}, like 25.00.` };
    lines.push({ item: item === '' ? null : Number(item), description, amount: read.minor });
  }
  if (gift && fields.fund.trim() === '') return { field: 'fund', fault: 'Say which fund it is for.' };
  const { channel, site, method } = place;
  return {
    keyed: {
      place: { channel, site, method },
      date,
      payer: fields.payer?.id ?? null,
      reference: fields.reference,
      lines,
      dimensions: [...(gift ? fundDimension(lists, fields.fund) : []), ...dimensionsOf(fields.dimensions)],
      fund: gift ? fields.fund : '',
      note: fields.note,
      paysBack: null,
    },
  };
}
