import { add, minor, shareOf, subtract, sum, type BasisPoints, type Minor } from '../money';

/** The tax on a line's net amount, in minor units, rounded half away from zero on the line. */
export function lineTax(net: Minor, rate: BasisPoints): Minor {
  return shareOf(net, rate);
}

/**
 * Whether a tax that the source states can be right for its line. Sources round a line up, down or to even, so one
 * minor unit either way is theirs to decide; the stated figure is then kept as it is.
 */
export function taxIsPlausible(net: Minor, rate: BasisPoints, stated: Minor): boolean {
  return Math.abs(subtract(stated, lineTax(net, rate))) <= 1;
}

export interface InvoiceTotals {
  readonly net: Minor;
  readonly tax: Minor;
  readonly gross: Minor;
}

export function invoiceTotals(lines: readonly { readonly net: Minor; readonly tax: Minor }[]): InvoiceTotals {
  const net = sum(lines.map((line) => line.net));
  const tax = sum(lines.map((line) => line.tax));
  return { net, tax, gross: add(net, tax) };
}

export type InvoiceState = 'new' | 'posted' | 'partly-paid' | 'paid' | 'overdue' | 'void';

/**
 * Where an invoice stands on a day, amounts in minor units: `paid` is what was settled of it, credit notes included, and
 * `credited` is what these took back.
 */
export function invoiceState(
  invoice: {
    readonly posted: boolean;
    readonly gross: Minor;
    readonly paid: Minor;
    readonly credited: Minor;
    readonly due: string;
  },
  today: string,
): InvoiceState {
  if (!invoice.posted) return 'new';
  if (invoice.credited >= invoice.gross) return 'void';
  if (invoice.paid >= invoice.gross) return 'paid';
  if (invoice.due < today) return 'overdue';
  return invoice.paid > minor(0) ? 'partly-paid' : 'posted';
}
