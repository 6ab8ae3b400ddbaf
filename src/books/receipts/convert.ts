import type { ForeignMoney, ReceiptMoney } from '@/core/channels';
import { add, atRate, subtract, sum, type Currency, type Minor, type Rate } from '@/core/money';
import type { Refusal } from '../command';
import type { Rates } from '../currencies/rates';
import type { LoadedReceipt } from './load-receipts';

/** A receipt's money in the books' own currency, and how amounts of it get there. */
export interface Converted {
  readonly money: ReceiptMoney;
  readonly foreign: ForeignMoney | null;
  readonly toBase: (amount: Minor) => Minor;
}

const same = (amount: Minor) => amount;

const converter = (rate: Rate, from: Currency, to: Currency) => (amount: Minor) => atRate(amount, rate, from, to);

/** Money in the books' own currency, at the rate of the receipt's day (recipe 22). */
export function convertReceipt(receipt: LoadedReceipt, rates: Rates): Converted | { readonly refusal: Refusal } {
  const { base } = rates;
  const { currency, book_date: day, gross, fee, tip } = receipt;
  if (currency === base) return { money: receipt, foreign: null, toBase: same };
  const rate = rates.on(currency, day);
  if (rate === null) return { refusal: { code: 'rate-missing', currency, day, receipt: receipt.external_id } };
  const toBase = converter(rate, currency, base);
  return {
    money: { gross: toBase(gross), tip: toBase(tip), fee: fee === null ? null : toBase(fee) },
    foreign: { currency, gross, fee },
    toBase,
  };
}

/** Amounts in the books' currency that come to a total: what rounding leaves over is borne by the largest. */
export function toTotal(amounts: readonly Minor[], total: Minor, toBase: (amount: Minor) => Minor): Minor[] {
  const converted = amounts.map(toBase);
  const over = subtract(total, sum(converted));
  if (over === 0) return converted;
  const largest = converted.reduce((at, amount, i) => (Math.abs(amount) > Math.abs(converted[at]!) ? i : at), 0);
  converted[largest] = add(converted[largest]!, over);
  return converted;
}
