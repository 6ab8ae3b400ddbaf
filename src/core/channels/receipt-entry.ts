import { channelFee, paidSale, receiptOnInvoice, refund, settled, together } from '../ledger';
import type { AccountId, Entry } from '../ledger';
import { negate, type BasisPoints, type Minor } from '../money';

/** Where a channel's money and what it takes are booked. */
export interface ChannelAccounts {
  readonly channel: string;
  readonly clearing: AccountId;
  readonly fees: AccountId;
  readonly refunds: AccountId;
  readonly receivable: AccountId;
  readonly payerCredit: AccountId;
  readonly tipsPayable: AccountId;
}

export interface TaxPart {
  readonly account: AccountId;
  readonly code: string;
  readonly rate: BasisPoints;
}

/** What a receipt is for, once its document and item were looked up. */
export type ReceiptPurpose =
  | { readonly kind: 'invoice'; readonly document: string; readonly open: Minor | null }
  | {
      readonly kind: 'sale';
      /** The item's code, or null where the channel's default decides. */
      readonly item: string | null;
      readonly income: AccountId;
      readonly tax: TaxPart;
    }
  | { readonly kind: 'refund'; readonly of: string; readonly taxed: readonly (TaxPart & { readonly weight: Minor })[] };

/** Money as the channel states it, in minor units, signed as in its export: a refund is negative. */
export interface ReceiptMoney {
  readonly gross: Minor;
  readonly tip: Minor;
  /** What the channel took; null where it does not say, which is not the same as nothing. */
  readonly fee: Minor | null;
}

function grossEntry(money: ReceiptMoney, purpose: ReceiptPurpose, accounts: ChannelAccounts): Entry {
  const { channel, clearing, tipsPayable } = accounts;
  switch (purpose.kind) {
    case 'invoice':
      return receiptOnInvoice({ ...accounts, gross: money.gross, document: purpose.document, open: purpose.open });
    case 'sale':
      return paidSale({
        channel,
        clearing,
        tipsPayable,
        gross: money.gross,
        tip: money.tip,
        income: purpose.income,
        incomeBecause:
          purpose.item === null ? { why: 'income-of-channel', channel } : { why: 'income-of-item', item: purpose.item },
        tax: purpose.tax,
      });
    case 'refund':
      return refund({
        channel,
        clearing,
        tipsPayable,
        refunds: accounts.refunds,
        amount: negate(money.gross),
        tip: negate(money.tip),
        of: purpose.of,
        taxed: purpose.taxed,
      });
  }
}

/** The entry of one receipt or refund: recipes 2, 3 or 6 for the gross, then 5 or 7 for a fee that is stated. */
export function receiptEntry(money: ReceiptMoney, purpose: ReceiptPurpose, accounts: ChannelAccounts): Entry {
  const gross = grossEntry(money, purpose, accounts);
  return money.fee === null || money.fee === 0 ? gross : together(gross, channelFee({ ...accounts, fee: money.fee }));
}

/** How much of its invoice a receipt settles, in minor units; 0 for anything else. */
export function settledBy(money: ReceiptMoney, purpose: ReceiptPurpose): Minor {
  return purpose.kind === 'invoice' ? settled({ gross: money.gross, open: purpose.open }) : (0 as Minor);
}
