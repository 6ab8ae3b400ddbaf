import { channelFee, paidSale, receiptOnInvoice, refund, settled, together } from '../ledger';
import type { AccountId, Because, Dimensions, Entry, SaleLine } from '../ledger';
import { negate, type BasisPoints, type Minor } from '../money';

/** Where the accounts of a receipt are, as the channel and the account map have them. */
export interface ReceiptAccounts {
  /** Where the receipt is deposited, and why: the clearing account, a cash box … */
  readonly deposit: { readonly account: AccountId; readonly because: Because };
  readonly fees: { readonly account: AccountId; readonly because: Because };
  readonly refunds: AccountId;
  readonly receivable: AccountId;
  readonly payerCredit: AccountId;
  readonly tipsPayable: AccountId;
  readonly discounts: AccountId | null;
}

export interface TaxPart {
  readonly account: AccountId;
  readonly code: string;
  readonly rate: BasisPoints;
}

/** What a receipt is for, once its document was looked up and the account map was asked. */
export type ReceiptPurpose =
  | { readonly kind: 'invoice'; readonly document: string; readonly open: Minor | null }
  | { readonly kind: 'sale'; readonly lines: readonly SaleLine[] }
  | {
      readonly kind: 'refund';
      readonly of: string;
      readonly taxed: readonly (TaxPart & { readonly weight: Minor })[];
      readonly dimensions: Dimensions;
    };

/** Money as the channel states it, in minor units, signed as in its export: a refund is negative. */
export interface ReceiptMoney {
  readonly gross: Minor;
  readonly tip: Minor;
  /** What the channel took; null where it does not say, which is not the same as nothing. */
  readonly fee: Minor | null;
}

function grossEntry(money: ReceiptMoney, purpose: ReceiptPurpose, accounts: ReceiptAccounts): Entry {
  const { deposit, receivable, payerCredit, tipsPayable, discounts, refunds } = accounts;
  switch (purpose.kind) {
    case 'invoice': {
      const { document, open } = purpose;
      return receiptOnInvoice({ into: deposit, gross: money.gross, document, open, receivable, payerCredit });
    }
    case 'sale': {
      const tenders = [{ account: deposit.account, amount: money.gross, because: deposit.because }];
      return paidSale({ tenders, lines: purpose.lines, tip: money.tip, tipsPayable, discounts });
    }
    case 'refund': {
      const { of, taxed, dimensions } = purpose;
      const amount = negate(money.gross);
      return refund({ from: deposit, refunds, tipsPayable, amount, tip: negate(money.tip), of, taxed, dimensions });
    }
  }
}

/** The entry of one receipt or refund: recipes 2, 3, 4, 6 or 17 for the gross, then 5 or 7 for a fee that is stated. */
export function receiptEntry(money: ReceiptMoney, purpose: ReceiptPurpose, accounts: ReceiptAccounts): Entry {
  const gross = grossEntry(money, purpose, accounts);
  if (money.fee === null || money.fee === 0) return gross;
  const { fees, deposit } = accounts;
  return together(
    gross,
    channelFee({ fees: fees.account, because: fees.because, from: deposit.account, fee: money.fee }),
  );
}

/** How much of its invoice a receipt settles, in minor units; 0 for anything else. */
export function settledBy(money: ReceiptMoney, purpose: ReceiptPurpose): Minor {
  return purpose.kind === 'invoice' ? settled({ gross: money.gross, open: purpose.open }) : (0 as Minor);
}
