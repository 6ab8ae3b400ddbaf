import { add, subtract, sum, ZERO, type Minor } from '../../money';
import type { AccountId } from '../account';
import { credit, debit, entryOf, type Entry } from '../entry';
import type { InvoiceIssued } from './invoice-issued';

export interface CreditNoteIssued extends InvoiceIssued {
  /** The invoice it takes back, in whole or in part. */
  readonly invoice: string;
  /** What that invoice has open, in minor units: more than this was paid already, and becomes the payer's credit. */
  readonly open: Minor;
  readonly payerCredit: AccountId;
}

/** How much of a credit note settles its invoice, and how much the payer keeps, in minor units. */
export function creditShared({ lines, open }: Pick<CreditNoteIssued, 'lines' | 'open'>): {
  readonly settles: Minor;
  readonly kept: Minor;
} {
  const gross = sum(lines.map(({ net, tax }) => add(net, tax.amount)));
  const settles = gross < open ? gross : open < ZERO ? ZERO : open;
  return { settles, kept: subtract(gross, settles) };
}

/**
 * A credit note: recipe 1 the other way round. Dr income per line, sales tax at the rate it was issued with; Cr receivable
 * as far as the invoice is open, and payer credit for what was paid.
 */
export function creditNoteIssued(event: CreditNoteIssued): Entry {
  const { settles, kept } = creditShared(event);
  const { invoice, document } = event;
  return entryOf(
    event.lines.flatMap((line) => debit(line.income, line.net, { why: 'credited', invoice }, line.dimensions)),
    event.lines.flatMap(({ tax }) =>
      debit(tax.account, tax.amount, { why: 'tax-code', code: tax.code, rate: tax.rate }),
    ),
    credit(event.receivable, settles, { why: 'credited', invoice }),
    credit(event.payerCredit, kept, { why: 'credit-kept', document }),
  );
}
