import type { BillLists } from '@/books/billing/bill-lists';
import { parseAmount, writeAmount, type Currency, type Minor } from '@/core/money';
import { readPercent } from '../../owed/bill/bill-fields';

export type ListName = 'items' | 'tax-codes' | 'terms';

export interface Choice {
  readonly value: string;
  readonly label: string;
}

/** One field of a row's form. */
export interface RowField {
  readonly name: string;
  readonly label: string;
  readonly kind: 'text' | 'days' | 'percent' | 'amount' | 'choice';
  readonly choices?: readonly Choice[];
  readonly hint?: string;
  readonly required?: boolean;
}

export type RowValues = Readonly<Record<string, string>>;

export interface ListChoices {
  readonly income: readonly Choice[];
  readonly taxAccounts: readonly Choice[];
  readonly taxCodes: BillLists['taxCodes'];
  readonly dimensions: BillLists['dimensions'];
}

export const UNITS: readonly Choice[] = [
  { value: 'C62', label: 'piece' },
  { value: 'HUR', label: 'hour' },
  { value: 'DAY', label: 'day' },
  { value: 'MON', label: 'month' },
  { value: 'MTR', label: 'metre' },
  { value: 'KGM', label: 'kilogram' },
];

export const CATEGORIES: readonly Choice[] = [
  { value: 'S', label: 'taxed' },
  { value: 'Z', label: 'taxed at nothing' },
  { value: 'E', label: 'exempt' },
  { value: 'O', label: 'outside the tax' },
];

export function fieldsFor(list: ListName, choices: ListChoices): readonly RowField[] {
  switch (list) {
    case 'items':
      return [
        { name: 'code', label: 'Code', kind: 'text', required: true },
        { name: 'name', label: 'Name', kind: 'text', required: true },
        { name: 'description', label: 'Printed on invoices', kind: 'text', hint: 'empty: its name' },
        { name: 'income_account_id', label: 'Earns on', kind: 'choice', choices: choices.income, required: true },
        {
          name: 'tax_code_id',
          label: 'Tax code',
          kind: 'choice',
          choices: choices.taxCodes.map(({ id, code, name }) => ({ value: String(id), label: `${code}, ${name}` })),
          required: true,
        },
        { name: 'price', label: 'Net price of one', kind: 'amount', hint: 'empty: asked each time' },
        { name: 'unit', label: 'Counted in', kind: 'choice', choices: UNITS, required: true },
        ...choices.dimensions.map(({ id, name, values }): RowField => ({
          name: `dimension:${id}`,
          label: name,
          kind: 'choice',
          choices: values.map((value) => ({ value: String(value.id), label: value.name })),
        })),
      ];
    case 'tax-codes':
      return [
        { name: 'code', label: 'Code', kind: 'text', required: true },
        { name: 'name', label: 'Name', kind: 'text', required: true },
        {
          name: 'rate',
          label: 'Rate, %',
          kind: 'percent',
          hint: 'what was issued keeps the rate it was issued with',
          required: true,
        },
        { name: 'account_id', label: 'Owed on', kind: 'choice', choices: choices.taxAccounts, required: true },
        { name: 'category', label: 'Kind', kind: 'choice', choices: CATEGORIES, required: true },
      ];
    case 'terms':
      return [
        { name: 'name', label: 'Name', kind: 'text', required: true },
        { name: 'due_days', label: 'Days until it is due', kind: 'days', required: true },
        { name: 'discount_rate', label: 'Off for paying early, %', kind: 'percent' },
        { name: 'discount_days', label: 'Days to pay early', kind: 'days' },
      ];
  }
}

/** A row's values as the command wants them, or the field that cannot be read. */
export function readRow(
  fields: readonly RowField[],
  values: RowValues,
  currency: Currency,
): { readonly row: Record<string, unknown> } | { readonly fault: string; readonly field: string } {
  const row: Record<string, unknown> = {};
  for (const { name, kind, label } of fields) {
    const text = (values[name] ?? '').trim();
    if (name.startsWith('dimension:')) {
      const dimensions = (row.dimensions ??= {}) as Record<string, number | null>;
      dimensions[name.slice('dimension:'.length)] = text === '' ? null : Number(text);
    } else if (kind === 'text') row[name] = text;
    else if (kind === 'choice') row[name] = /^\d+$/.test(text) ? Number(text) : text;
    else if (kind === 'days') {
      if (!/^\d{0,3}$/.test(text)) return { field: name, fault: `${label}: write a number of days.` };
      row[name] = Number(text || '0');
    } else if (kind === 'percent') {
      const points = readPercent(text);
      if (points === null) return { field: name, fault: `${label}: write a percentage, like 13.5.` };
      row[name] = points;
    } else {
      const amount = text === '' ? null : parseAmount(text, currency);
      if (amount !== null && !amount.ok) return { field: name, fault: `${label}: write an amount, like 48.00.` };
      row[name] = amount?.minor ?? null;
    }
  }
  return { row };
}

/** A row of the books as the form shows it. */
export function valuesOf(
  fields: readonly RowField[],
  row: Readonly<Record<string, unknown>>,
  currency: Currency,
): RowValues {
  return Object.fromEntries(
    fields.map(({ name, kind }) => {
      const value = row[name];
      if (value === null || value === undefined) return [name, ''];
      if (kind === 'percent') return [name, String((value as number) / 100)];
      return [name, kind === 'amount' ? writeAmount(value as Minor, currency) : String(value)];
    }),
  );
}
