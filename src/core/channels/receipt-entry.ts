import {
  channelFee,
  chargeback,
  inForeign,
  paidSale,
  receiptOnInvoice,
  refund,
  reopened,
  settled,
  takenOff,
  together,
} from '../ledger';
import type { AccountId, Because, Dimensions, DiscountShare, Entry, SaleLine, Tender } from '../ledger';
import { negate, subtract, ZERO, type BasisPoints, type Currency, type Minor } from '../money';

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
  readonly chargebacks: AccountId | null;
}

export interface TaxPart {
  readonly account: AccountId;
  readonly code: string;
  readonly rate: BasisPoints;
}

/** What a receipt is for, once its document was looked up and the account map was asked. */
export type ReceiptPurpose =
  | {
      readonly kind: 'invoice';
      readonly document: string;
      readonly open: Minor | null;
      /** What was in time is taken off by tax, where the invoice allows it. */
      readonly early?: readonly DiscountShare[];
    }
  | {
      readonly kind: 'sale';
      readonly lines: readonly SaleLine[];
      /** What it was paid with, where that is more than one; they come to gross. Without it all of gross is deposited in one place. */
      readonly tenders?: readonly Tender[];
    }
  | {
      readonly kind: 'refund';
      readonly of: string;
      readonly taxed: readonly (TaxPart & { readonly weight: Minor })[];
      readonly dimensions: Dimensions;
      /** What of it was kept for the payer, in the books' currency. */
      readonly fromCredit: Minor;
    }
  /** `invoice` is what of its invoice can be reopened, or settled again where it was won; minor units. */
  | { readonly kind: 'chargeback'; readonly of: string; readonly invoice: Minor; readonly byDebit: boolean };

/**
 * Money in the books' own currency, in minor units, signed as in the channel's export: a refund is negative.
 */
export interface ReceiptMoney {
  readonly gross: Minor;
  readonly tip: Minor;
  /** What the channel took; null where it does not say, which is not the same as nothing. */
  readonly fee: Minor | null;
}

/** The same money as the channel holds it, where its currency is another than the books'. */
export interface ForeignMoney {
  readonly currency: Currency;
  readonly gross: Minor;
  readonly fee: Minor | null;
}

function earlyOf(purpose: ReceiptPurpose, discounts: AccountId | null) {
  if (purpose.kind !== 'invoice' || !purpose.early?.length) return null;
  if (discounts === null) throw new Error('no account for discounts');
  return { discounts, shares: purpose.early };
}

function grossEntry(money: ReceiptMoney, purpose: ReceiptPurpose, accounts: ReceiptAccounts): Entry {
  const { deposit, receivable, payerCredit, tipsPayable, discounts, refunds } = accounts;
  switch (purpose.kind) {
    case 'invoice': {
      const { document, open } = purpose;
      const early = earlyOf(purpose, discounts);
      return receiptOnInvoice({ into: deposit, gross: money.gross, document, open, receivable, payerCredit, early });
    }
    case 'sale': {
      const tenders = purpose.tenders ?? [{ account: deposit.account, amount: money.gross, because: deposit.because }];
      return paidSale({ tenders, lines: purpose.lines, tip: money.tip, tipsPayable, discounts });
    }
    case 'refund': {
      const { of, taxed, dimensions, fromCredit } = purpose;
      const amount = negate(money.gross);
      const tip = negate(money.tip);
      return refund({
        from: deposit,
        refunds,
        tipsPayable,
        payerCredit,
        fromCredit,
        amount,
        tip,
        of,
        taxed,
        dimensions,
      });
    }
    case 'chargeback': {
      const { of, invoice, byDebit } = purpose;
      const { chargebacks } = accounts;
      return chargeback({ from: deposit, amount: negate(money.gross), of, byDebit, receivable, chargebacks, invoice });
    }
  }
}

/**
 * The entry of one movement: recipes 2, 3, 4, 6, 8, 10, 11, 17 or 19 for the gross, then 5 or 7 for a fee that is stated. Of a channel
 * in another currency (recipe 22) all is in the books' own, and the lines on clearing say what they are in the channel's.
 */
export function receiptEntry(
  money: ReceiptMoney,
  purpose: ReceiptPurpose,
  accounts: ReceiptAccounts,
  foreign: ForeignMoney | null = null,
): Entry {
  const { fees, deposit } = accounts;
  const own = (entry: Entry, amount: Minor): Entry =>
    foreign === null
      ? entry
      : { lines: inForeign(entry.lines, deposit.account, { currency: foreign.currency, amount }) };
  const whole = grossEntry(money, purpose, accounts);
  // Tenders say for themselves what they are in the channel's currency.
  const gross = purpose.kind === 'sale' && purpose.tenders ? whole : own(whole, foreign?.gross ?? money.gross);
  if (money.fee === null || money.fee === 0) return gross;
  const fee = channelFee({ fees: fees.account, because: fees.because, from: deposit.account, fee: money.fee });
  return together(gross, own(fee, negate(foreign?.fee ?? money.fee)));
}

/** What a movement does to its invoice and to what is kept for its payer, in minor units of the books' currency. */
export interface Settling {
  /** Settled by money; below zero where it reopens the invoice. */
  readonly settles: Minor;
  /** Settled by a discount for paying early. */
  readonly takenOff: Minor;
  /** Kept for the payer; below zero where it is paid back. */
  readonly kept: Minor;
}

export function settling(money: ReceiptMoney, purpose: ReceiptPurpose): Settling {
  const nothing = { settles: ZERO, takenOff: ZERO, kept: ZERO };
  switch (purpose.kind) {
    case 'invoice': {
      const event = { gross: money.gross, open: purpose.open, early: { discounts: NONE, shares: purpose.early ?? [] } };
      const settles = settled(event);
      return { settles, takenOff: takenOff(event), kept: subtract(money.gross, settles) };
    }
    case 'chargeback':
      return { ...nothing, settles: negate(reopened({ amount: negate(money.gross), invoice: purpose.invoice })) };
    case 'refund':
      return { ...nothing, kept: negate(purpose.fromCredit) };
    case 'sale':
      return nothing;
  }
}

const NONE = 0 as AccountId;
