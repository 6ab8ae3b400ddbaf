import { add, minor, subtract, sum, type Minor } from '../../money';
import type { AccountId } from '../account';
import type { Because } from '../because';
import { credit, debit, entryOf, type Entry } from '../entry';
import { discountLines, type DiscountShare } from './settlement';

export interface ReceiptOnInvoice {
  /** Where the money came in: the channel's clearing account, or a cash box. */
  readonly into: { readonly account: AccountId; readonly because: Because };
  readonly gross: Minor;
  readonly document: string;
  readonly receivable: AccountId;
  readonly payerCredit: AccountId;
  /** What the invoice has open before this receipt, in minor units; null where no such invoice is in the books. */
  readonly open: Minor | null;
  /** What it takes off for paying early (recipe 13), where it was in time. */
  readonly early?: { readonly discounts: AccountId; readonly shares: readonly DiscountShare[] } | null;
}

/** What an early payment takes off, in minor units. */
export function takenOff({ early }: Pick<ReceiptOnInvoice, 'early'>): Minor {
  return sum((early?.shares ?? []).map(({ net, tax }) => add(net, tax)));
}

/** How much of the receipt settles the invoice: never more than is open, in minor units. */
export function settled(event: Pick<ReceiptOnInvoice, 'gross' | 'open' | 'early'>): Minor {
  return minor(Math.max(0, Math.min(event.gross, (event.open ?? 0) - takenOff(event))));
}

/**
 * Recipe 2, receipt on an invoice through a channel: Dr clearing (gross); Cr receivable. What is over the open amount,
 * or names no invoice of the books, is kept as the payer's credit (the credit side of recipe 12), so nothing is lost.
 * What is taken off for paying early settles the invoice too.
 */
export function receiptOnInvoice(event: ReceiptOnInvoice): Entry {
  const { document, early } = event;
  const applied = settled(event);
  return entryOf(
    debit(event.into.account, event.gross, event.into.because),
    early ? discountLines(early.shares, early.discounts) : [],
    credit(event.receivable, add(applied, takenOff(event)), { why: 'settles-invoice', document }),
    credit(
      event.payerCredit,
      subtract(event.gross, applied),
      event.open === null ? { why: 'unknown-document', document } : { why: 'over-invoice', document },
    ),
  );
}
