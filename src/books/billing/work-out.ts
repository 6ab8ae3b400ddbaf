import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId, InvoiceIssued } from '@/core/ledger';
import type { BasisPoints, Minor } from '@/core/money';
import { billLines, dueDates, invoiceTotals, type InvoiceTotals } from '@/core/receivables';
import type { Refusal } from '../command';
import { requiredDimensions } from '../dimensions/required';
import type { Reading } from '../store';
import type { BillInput } from './bill-input';

/** A bill with everything looked up and worked out that its document and its entry need. Amounts in minor units. */
export interface WorkedOut extends InvoiceTotals {
  readonly due: PlainDate;
  readonly discountRate: BasisPoints;
  readonly discountUntil: PlainDate | null;
  readonly lines: readonly WorkedLine[];
}

export interface WorkedLine {
  readonly item: number;
  readonly itemCode: string;
  readonly description: string;
  readonly quantity: number;
  readonly price: Minor;
  readonly discount: BasisPoints;
  readonly net: Minor;
  readonly tax: Minor;
  readonly taxCode: number;
  readonly taxName: string;
  readonly rate: BasisPoints;
  readonly taxAccount: AccountId;
  readonly income: AccountId;
  readonly dimensions: BillInput['lines'][number]['dimensions'];
}

const missing = (what: string, id: number): { refusal: Refusal } => ({
  refusal: { code: 'not-found', what, id: String(id) },
});
const lacks = (field: string, expected: string): { refusal: Refusal } => ({
  refusal: { code: 'invalid-input', field, expected },
});

/** A bill whose lines name the items of now: one that was merged is the one it was merged into. */
export async function withItemsOfNow(db: Reading, bill: BillInput): Promise<BillInput> {
  const merged = await db
    .selectFrom('item')
    .select(['id', 'merged_into'])
    .where('merged_into', 'is not', null)
    .execute();
  if (merged.length === 0) return bill;
  const now = new Map(merged.map(({ id, merged_into: into }) => [id, into!]));
  return { ...bill, lines: bill.lines.map((line) => ({ ...line, item: now.get(line.item) ?? line.item })) };
}

/** Looks a bill's lists up and works its lines out at the rates of now; refuses what cannot be issued. */
export async function workOut(db: Reading, bill: BillInput): Promise<WorkedOut | { readonly refusal: Refusal }> {
  if (bill.lines.length === 0) return lacks('lines', 'at least one line');
  const items = new Map((await db.selectFrom('item').selectAll().execute()).map((item) => [item.id, item]));
  const taxes = new Map((await db.selectFrom('tax_code').selectAll().execute()).map((tax) => [tax.id, tax]));
  for (const line of bill.lines) {
    if (!items.has(line.item)) return missing('item', line.item);
    if (!taxes.has(line.taxCode)) return missing('tax code', line.taxCode);
  }
  const terms =
    bill.terms === null
      ? null
      : await db.selectFrom('terms').selectAll().where('id', '=', bill.terms).executeTakeFirst();
  if (terms === undefined) return missing('terms', bill.terms!);
  const agreed = terms
    ? { dueDays: terms.due_days, discountRate: terms.discount_rate, discountDays: terms.discount_days }
    : { dueDays: 0, discountRate: 0, discountDays: 0 };
  const dates = dueDates(bill.issued, agreed);
  const due = bill.due ?? dates.due;
  if (due < bill.issued) return lacks('due', 'a day on or after the day of issue');
  const billed = billLines(bill.lines.map((line) => ({ ...line, rate: taxes.get(line.taxCode)!.rate })));
  const totals = invoiceTotals(billed);
  const lines = bill.lines.map((line, index): WorkedLine => {
    const [item, tax] = [items.get(line.item)!, taxes.get(line.taxCode)!];
    const { net, tax: amount } = billed[index]!;
    return {
      ...line,
      itemCode: item.code,
      net,
      tax: amount,
      taxName: tax.code,
      rate: tax.rate,
      taxAccount: tax.account_id,
      income: item.income_account_id,
    };
  });
  const lacking = await requiredDimensions(db, lines);
  if (lacking) {
    return { refusal: { code: 'line-needs-dimension', ...lacking } };
  }
  return { ...totals, due, discountRate: agreed.discountRate, discountUntil: dates.discountUntil, lines };
}

/** What an invoice books, as its recipe asks for it. */
export function issuedEvent(document: string, receivable: AccountId, lines: readonly WorkedLine[]): InvoiceIssued {
  return {
    document,
    receivable,
    lines: lines.map(({ itemCode, income, net, tax, taxAccount, taxName, rate, dimensions }) => ({
      item: itemCode,
      income,
      net,
      dimensions,
      tax: { account: taxAccount, code: taxName, rate, amount: tax },
    })),
  };
}

/** The lines of an invoice as they stand in the books, at the rates they were issued with. */
export async function linesOf(db: Reading, invoice: number): Promise<WorkedLine[]> {
  const { rows } = await sql<Omit<WorkedLine, 'dimensions'> & { dimensions: string }>`
    SELECT l.item_id AS item, item.code AS itemCode, l.description, l.quantity, l.price, l.discount_rate AS discount, l.net,
      l.tax, l.tax_code_id AS taxCode, t.code AS taxName, l.rate, t.account_id AS taxAccount,
      item.income_account_id AS income, l.dimensions
    FROM invoice_line l JOIN item ON item.id = l.item_id JOIN tax_code t ON t.id = l.tax_code_id
    WHERE l.invoice_id = ${invoice} ORDER BY l.line_no
  `.execute(db);
  return rows.map((row) => ({ ...row, dimensions: JSON.parse(row.dimensions) as WorkedLine['dimensions'] }));
}
