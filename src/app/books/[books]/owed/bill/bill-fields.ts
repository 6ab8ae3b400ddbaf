import type { BillInput } from '@/books/billing/bill-input';
import type { BillLists } from '@/books/billing/bill-lists';
import { parsePlainDate, type PlainDate } from '@/core/calendar';
import { formatUnits, minor, parseAmount, parseThousandths, writeAmount, type Currency } from '@/core/money';

/** A bill as it is typed: every field a text, until it is read. */
export interface BillFields {
  payer: { id: number; name: string } | null;
  issued: string;
  due: string;
  terms: string;
  reference: string;
  note: string;
  privateNote: string;
  lines: LineFields[];
}

export interface LineFields {
  item: string;
  description: string;
  quantity: string;
  price: string;
  /** Percent. */
  discount: string;
  taxCode: string;
  /** Value by dimension. */
  dimensions: Record<string, string>;
}

export const EMPTY_LINE: LineFields = {
  item: '',
  description: '',
  quantity: '1',
  price: '',
  discount: '',
  taxCode: '',
  dimensions: {},
};

export const emptyBill = (today: PlainDate): BillFields => ({
  payer: null,
  issued: today,
  due: '',
  terms: '',
  reference: '',
  note: '',
  privateNote: '',
  lines: [EMPTY_LINE],
});

export function fieldsOf(bill: BillInput, payer: BillFields['payer'], currency: Currency): BillFields {
  return {
    payer,
    issued: bill.issued,
    due: bill.due ?? '',
    terms: bill.terms === null ? '' : String(bill.terms),
    reference: bill.reference,
    note: bill.note,
    privateNote: bill.privateNote,
    lines: bill.lines.map((line) => ({
      item: String(line.item),
      description: line.description,
      quantity: formatUnits(line.quantity),
      price: writeAmount(line.price, currency),
      discount: line.discount === 0 ? '' : String(line.discount / 100),
      taxCode: String(line.taxCode),
      dimensions: Object.fromEntries(line.dimensions.map(([dimension, value]) => [dimension, String(value)])),
    })),
  };
}

/** What a field of the form lacks, by its path: "lines.0.price". */
export type BillFaults = Readonly<Record<string, string>>;

const isBlank = ({ item, description, price }: LineFields) => item === '' && description === '' && price === '';

/** Percent as basis points; null where it is none. */
export function readPercent(text: string): number | null {
  const read = text.trim() === '' ? 0 : Number(text.trim().replace(',', '.'));
  const points = Math.round(read * 100);
  return Number.isFinite(read) && points >= 0 && points <= 10_000 && Math.abs(points - read * 100) < 1e-6
    ? points
    : null;
}

/** Reads the form: the bill as far as it can be read, and what is wrong with the rest. Blank lines are left out. */
export function readBill(fields: BillFields, lists: BillLists): { bill: BillInput; faults: BillFaults } {
  const faults: Record<string, string> = {};
  const { currency } = lists;
  const lines = fields.lines.flatMap((line, index) => {
    if (isBlank(line)) return [];
    const at = (field: string, fault: string) => {
      faults[`lines.${index}.${field}`] = fault;
    };
    const price = parseAmount(line.price.trim() === '' ? '0' : line.price.trim(), currency);
    if (!price.ok) at('price', `Write an amount in ${currency}, like 120.00.`);
    const quantity = parseThousandths(line.quantity.trim());
    if (quantity === null) at('quantity', 'Write a number, with three decimals at most.');
    const discount = readPercent(line.discount);
    if (discount === null) at('discount', 'Write a percentage from 0 to 100.');
    if (line.item === '') at('item', 'Choose an item.');
    if (line.taxCode === '') at('taxCode', 'Choose a tax code.');
    return [
      {
        item: Number(line.item),
        description: line.description,
        quantity: quantity ?? 0,
        price: price.ok ? price.minor : minor(0),
        discount: discount ?? 0,
        taxCode: Number(line.taxCode),
        dimensions: Object.entries(line.dimensions).flatMap(([dimension, value]) =>
          value === '' ? [] : [[Number(dimension), Number(value)] as const],
        ),
      },
    ];
  });
  const issued = parsePlainDate(fields.issued);
  if (issued === null) faults.issued = 'Write a date.';
  const due = fields.due === '' ? null : parsePlainDate(fields.due);
  if (fields.due !== '' && due === null) faults.due = 'Write a date.';
  if (fields.payer === null) faults.payer = 'Choose who owes it.';
  if (lines.length === 0) faults['lines.0.item'] ??= 'Write at least one line.';
  const { reference, note, privateNote } = fields;
  const terms = fields.terms === '' ? null : Number(fields.terms);
  return {
    bill: {
      payer: fields.payer?.id ?? null,
      issued: issued ?? ('2000-01-01' as PlainDate),
      due,
      terms,
      reference,
      note,
      privateNote,
      lines,
    },
    faults,
  };
}
