/** Accounts and shorthands that the tests of the recipes share. */
import { feeOf, type ReceiptAccounts } from '../../channels';
import { minor } from '../../money';
import type { AccountId } from '../account';
import type { Entry } from '../entry';
import type { depositEntry, DepositPart, SaleLine } from '.';

export const account = (n: number) => n as AccountId;
export const BANK = account(1010);
export const RECEIVABLE = account(1100);
export const CLEARING = account(1200);
export const TAX = account(2100);
export const CREDIT = account(2200);
export const TIPS = account(2300);
export const REPAIRS = account(4010);
export const REFUNDS = account(4900);
export const FEES = account(6100);
export const ROUNDING = account(6900);

export const HELD = { account: CLEARING, because: { why: 'held-by-channel', channel: 'Card desk' } } as const;
export const ACCOUNTS: ReceiptAccounts = {
  deposit: HELD,
  fees: { account: FEES, because: { why: 'fee-in-export', channel: 'Card desk' } },
  discounts: null,
  refunds: REFUNDS,
  receivable: RECEIVABLE,
  payerCredit: CREDIT,
  chargebacks: null,
  tipsPayable: TIPS,
};
export const S23 = { account: TAX, code: 'S23', rate: 2300 };
/** One line that is sold: its price with tax, and where it lands. */
export const sold = (
  price: number,
  tax: { account: AccountId; code: string; rate: number } = S23,
  more: Partial<SaleLine> = {},
): SaleLine => ({
  price: minor(price),
  discount: minor(0),
  income: REPAIRS,
  because: { why: 'mapped', layer: 'item', name: 'parts' },
  tax: { ...tax, given: null, because: { why: 'tax-code', code: tax.code, rate: tax.rate } },
  ...more,
});
export const SCHEDULE = { rate: 190, fixed: minor(25) };

/** Entry as [account, debit-positive amount], for comparing with figures worked by hand. */
export const figures = (entry: Entry) => entry.lines.map((line) => [line.account, line.amount]);
export const entry = (result: ReturnType<typeof depositEntry>): Entry => {
  if ('left' in result) throw new Error(`left to explain: ${result.left}`);
  return result;
};
export const receipt = (reference: string, gross: number): DepositPart => ({
  kind: 'receipt',
  reference,
  clearing: CLEARING,
  fees: FEES,
  held: minor(gross),
  scheduleFee: feeOf(minor(gross), SCHEDULE),
});
