import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { add, subtract, type BasisPoints, type Currency, type Minor } from '@/core/money';
import { earlyPayments } from '../settling/early';
import type { Reading } from '../store';
import { linesOf, type WorkedLine } from './work-out';

export interface Letterhead {
  readonly name: string;
  readonly address: string;
  readonly country: string;
  readonly email: string;
  readonly taxNumber: string;
  /** The bank account to pay into; null where the books have none. */
  readonly bank: { readonly iban: string; readonly bic: string } | null;
  readonly currency: Currency;
}

export interface DocumentPayer {
  readonly name: string;
  readonly email: string;
  readonly address: string;
  readonly country: string;
  readonly taxNumber: string;
}

export interface TaxTotal {
  readonly code: string;
  readonly category: 'S' | 'Z' | 'E' | 'O';
  readonly rate: BasisPoints;
  readonly net: Minor;
  readonly tax: Minor;
}

export interface DocumentLine extends WorkedLine {
  readonly itemName: string;
  readonly unit: string;
  readonly category: TaxTotal['category'];
}

/** Everything that stands on an invoice, as it is now. Amounts in minor units. */
export interface InvoiceDocument {
  readonly from: Letterhead;
  readonly to: DocumentPayer;
  readonly number: string;
  readonly version: number;
  readonly issued: PlainDate;
  readonly due: PlainDate;
  readonly reference: string;
  readonly note: string;
  readonly lines: readonly DocumentLine[];
  readonly taxes: readonly TaxTotal[];
  readonly net: Minor;
  readonly tax: Minor;
  readonly gross: Minor;
  readonly paid: Minor;
  readonly credited: Minor;
  readonly posted: boolean;
  /** What may be taken off for paying by a day. */
  readonly early: { readonly until: PlainDate; readonly discount: Minor } | null;
}

/** A credit note as it is printed. */
export interface CreditNoteDocument extends Pick<
  InvoiceDocument,
  'from' | 'to' | 'number' | 'issued' | 'lines' | 'taxes' | 'net' | 'tax' | 'gross'
> {
  readonly invoice: { readonly number: string; readonly issued: PlainDate };
  readonly why: string;
  readonly withdrawn: boolean;
}

export async function letterhead(db: Reading): Promise<Letterhead> {
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const bank = await db
    .selectFrom('bank_account')
    .select(['iban', 'bic'])
    .where('currency', '=', books.currency)
    .orderBy('account_id')
    .executeTakeFirst();
  const { name, address, country, email, tax_number: taxNumber, currency } = books;
  return { name, address, country, email, taxNumber, bank: bank ?? null, currency };
}

async function payerOn(db: Reading, payer: number): Promise<DocumentPayer> {
  return db
    .selectFrom('payer')
    .select(['name', 'email', 'address', 'country', 'tax_number as taxNumber'])
    .where('id', '=', payer)
    .executeTakeFirstOrThrow();
}

/** Adds to lines what only a document needs. */
async function documentLines(db: Reading, invoice: number): Promise<DocumentLine[]> {
  const lines = await linesOf(db, invoice);
  const items = new Map((await db.selectFrom('item').select(['id', 'name', 'unit']).execute()).map((i) => [i.id, i]));
  const taxes = new Map((await db.selectFrom('tax_code').select(['id', 'category']).execute()).map((t) => [t.id, t]));
  return lines.map((line) => ({
    ...line,
    itemName: items.get(line.item)!.name,
    unit: items.get(line.item)!.unit,
    category: taxes.get(line.taxCode)!.category,
  }));
}

/** Net and tax by category and rate, in order of the rate, as they are asked for in EN 16931 (BG-23). */
export function taxTotals(lines: readonly DocumentLine[]): TaxTotal[] {
  const totals = new Map<string, TaxTotal>();
  for (const { taxName: code, category, rate, net, tax } of lines) {
    const key = `${category}/${rate}`;
    const total = totals.get(key) ?? { code, category, rate, net: 0 as Minor, tax: 0 as Minor };
    totals.set(key, { ...total, net: add(total.net, net), tax: add(total.tax, tax) });
  }
  return [...totals.values()].sort((a, b) => b.rate - a.rate);
}

export async function invoiceDocument(db: Reading, id: number): Promise<InvoiceDocument | null> {
  const row = await db.selectFrom('invoice').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return null;
  const { number, version, issued, due, reference, note, net, tax, gross, paid, credited } = row;
  const lines = await documentLines(db, id);
  const early = (await earlyPayments(db, [id])).get(id);
  const open = subtract(gross, paid);
  const discount = early && row.discount_until ? early.asked(open, row.discount_until).discount : (0 as Minor);
  return {
    from: await letterhead(db),
    to: await payerOn(db, row.payer_id),
    ...{ number, version, issued, due, reference, note, net, tax, gross, paid, credited },
    lines,
    taxes: taxTotals(lines),
    posted: row.journal_id !== null,
    early: row.discount_until !== null && discount > 0 ? { until: row.discount_until, discount } : null,
  };
}

export async function creditNoteDocument(db: Reading, id: number): Promise<CreditNoteDocument | null> {
  const row = await db.selectFrom('credit_note').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return null;
  const invoice = await db
    .selectFrom('invoice')
    .select(['number', 'issued', 'payer_id'])
    .where('id', '=', row.invoice_id)
    .executeTakeFirstOrThrow();
  const all = await documentLines(db, row.invoice_id);
  const { rows } = await sql<{ line: number; net: Minor; tax: Minor }>`
    SELECT invoice_line AS line, net, tax FROM credit_note_line WHERE credit_note_id = ${id} ORDER BY line_no
  `.execute(db);
  const lines = rows.map(({ line, net, tax }) => {
    const of = all[line - 1]!;
    // A part of a line is one of what was taken back.
    const whole = net === of.net;
    return { ...of, net, tax, ...(!whole && { quantity: 1000, price: net, discount: 0 }) };
  });
  const { number, issued, net, tax, gross, why } = row;
  return {
    from: await letterhead(db),
    to: await payerOn(db, invoice.payer_id),
    ...{ number, issued, net, tax, gross, why, lines },
    taxes: taxTotals(lines),
    invoice: { number: invoice.number, issued: invoice.issued },
    withdrawn: row.journal_id === null,
  };
}
