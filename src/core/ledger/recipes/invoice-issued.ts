import { add, sum, type BasisPoints, type Minor } from '../../money';
import type { AccountId } from '../account';
import { credit, debit, entryOf, type Dimensions, type Entry } from '../entry';

export interface InvoiceIssued {
  readonly document: string;
  readonly receivable: AccountId;
  readonly lines: readonly {
    readonly item: string;
    readonly income: AccountId;
    readonly net: Minor;
    readonly dimensions?: Dimensions;
    readonly tax: {
      readonly account: AccountId;
      readonly code: string;
      readonly rate: BasisPoints;
      readonly amount: Minor;
    };
  }[];
}

/** Recipe 1, invoice issued: Dr receivable (gross); Cr income per line (net), sales tax per line. */
export function invoiceIssued(event: InvoiceIssued): Entry {
  const gross = sum(event.lines.map((line) => add(line.net, line.tax.amount)));
  return entryOf(
    debit(event.receivable, gross, { why: 'owed-on-invoice', document: event.document }),
    event.lines.flatMap((line) =>
      credit(line.income, line.net, { why: 'income-of-item', item: line.item }, line.dimensions),
    ),
    event.lines.flatMap((line) =>
      credit(line.tax.account, line.tax.amount, { why: 'tax-code', code: line.tax.code, rate: line.tax.rate }),
    ),
  );
}
