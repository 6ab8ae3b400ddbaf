import { plural } from '../words';
import { formatPercent } from '../money';

/** Where a decision of the account map came from: its layer, and the name of the rule, item, payer or channel. */
export interface MapOrigin {
  readonly layer: 'receipt' | 'rule' | 'item' | 'payer' | 'channel' | 'books';
  readonly name: string;
}

/** A dimension of a line, named, with where it came from. */
export interface DimensionBecause extends MapOrigin {
  readonly dimension: string;
  readonly value: string;
}

/**
 * Why a line of an entry landed on its account. Kept with the line as data; {@link becauseWords} makes the sentence
 * where a person reads it.
 */
export type Because =
  | { readonly why: 'opening' }
  | { readonly why: 'owed-on-invoice'; readonly document: string }
  | { readonly why: 'income-of-item'; readonly item: string }
  | { readonly why: 'income-of-channel'; readonly channel: string }
  | ({ readonly why: 'mapped'; readonly rule?: number; readonly dimensions?: readonly DimensionBecause[] } & MapOrigin)
  | { readonly why: 'tax-code'; readonly code: string; readonly rate: number; readonly by?: MapOrigin }
  | { readonly why: 'discount'; readonly by?: readonly DimensionBecause[] }
  | { readonly why: 'gift-card-sold' }
  | { readonly why: 'gift-card-used' }
  | { readonly why: 'taken-in'; readonly tender: string; readonly site: string }
  | { readonly why: 'summary'; readonly count: number; readonly of: Because; readonly others: number }
  | { readonly why: 'held-by-channel'; readonly channel: string }
  | { readonly why: 'settles-invoice'; readonly document: string }
  | { readonly why: 'over-invoice'; readonly document: string }
  | { readonly why: 'unknown-document'; readonly document: string }
  | { readonly why: 'tip' }
  | { readonly why: 'fee-in-export'; readonly channel: string }
  | { readonly why: 'fee-given-back'; readonly channel: string }
  | { readonly why: 'refund'; readonly of: string }
  | { readonly why: 'refund-tax'; readonly code: string; readonly rate: number }
  | { readonly why: 'refund-tip' }
  | { readonly why: 'chargeback' | 'chargeback-won' | 'debit-returned'; readonly of: string }
  | { readonly why: 'reached-bank'; readonly line: number }
  /** Between two lines of the bank that belong together and are of different days. */
  | { readonly why: 'between-lines'; readonly line: number }
  | { readonly why: 'payout-left'; readonly payout: string }
  | { readonly why: 'receipt-left'; readonly receipt: string }
  | { readonly why: 'fee-at-bank'; readonly schedule: number; readonly rest: number }
  | { readonly why: 'fee-by-schedule' }
  | { readonly why: 'fee-as-learnt' }
  | { readonly why: 'credited'; readonly invoice: string }
  | { readonly why: 'credit-kept'; readonly document: string }
  | { readonly why: 'credit-used' | 'credit-refunded' | 'early-discount' | 'written-off' }
  | { readonly why: 'early-discount-tax'; readonly code: string; readonly rate: number }
  | { readonly why: 'rest-chosen' }
  /** Some of a deposit, booked straight to an account on its sheet. */
  | { readonly why: 'booked-on-sheet' }
  | { readonly why: 'statement-rule'; readonly rule: string }
  | { readonly why: 'reverses'; readonly journal: number };

function originWords({ layer, name }: MapOrigin): string {
  switch (layer) {
    case 'receipt':
      return 'you set it on this receipt';
    case 'rule':
      return `rule “${name}”`;
    case 'item':
      return `item ${name}`;
    case 'payer':
      return `payer ${name}`;
    case 'channel':
      return `default of ${name}`;
    case 'books':
      return 'default of these books';
  }
}

const dimensionWords = (dimensions: readonly DimensionBecause[] | undefined): string =>
  (dimensions ?? []).map((d) => `; ${d.dimension} ${d.value}: ${originWords(d)}`).join('');

/** The reason as a short plain phrase, without a full stop. */
export function becauseWords(because: Because): string {
  switch (because.why) {
    case 'opening':
      return 'balance when these books began';
    case 'owed-on-invoice':
      return `invoice ${because.document} is owed`;
    case 'income-of-item':
      return `item ${because.item} earns here`;
    case 'income-of-channel':
      return `${because.channel} sales without an item earn here`;
    case 'mapped':
      return originWords(because) + dimensionWords(because.dimensions);
    case 'tax-code':
      return `tax code ${because.code}, ${formatPercent(because.rate)}${because.by ? `: ${originWords(because.by)}` : ''}`;
    case 'discount':
      return `discount given${dimensionWords(because.by)}`;
    case 'gift-card-sold':
      return 'gift card sold, owed until it is used';
    case 'gift-card-used':
      return 'gift card used';
    case 'taken-in':
      return `${because.tender} taken in at ${because.site}`;
    case 'summary': {
      const what = `${plural(because.count, 'receipt')}: ${becauseWords(because.of)}`;
      return because.others > 0 ? `${what}, and ${plural(because.others, 'other reason')}` : what;
    }
    case 'held-by-channel':
      return `${because.channel} holds it until it pays out`;
    case 'settles-invoice':
      return because.document ? `settles invoice ${because.document}` : 'settles invoices';
    case 'over-invoice':
      return because.document
        ? `more than invoice ${because.document} has open, kept for the payer`
        : 'more than invoices have open, kept for the payers';
    case 'unknown-document':
      return because.document
        ? `${because.document} is no invoice of these books, kept for the payer`
        : 'names no invoice of these books, kept for the payers';
    case 'tip':
      return 'tip, owed to staff';
    case 'fee-in-export':
      return `fee that ${because.channel} states`;
    case 'fee-given-back':
      return `fee that ${because.channel} gave back`;
    case 'refund':
      return because.of ? `refund of ${because.of}` : 'refund';
    case 'refund-tax':
      return `tax in the refund, code ${because.code}, ${formatPercent(because.rate)}`;
    case 'refund-tip':
      return 'tip in the refund';
    case 'chargeback':
      return because.of ? `chargeback of ${because.of}` : 'chargeback';
    case 'debit-returned':
      return because.of ? `debit ${because.of} returned` : 'debit returned';
    case 'chargeback-won':
      return because.of ? `chargeback of ${because.of} won` : 'chargeback won';
    case 'reached-bank':
      return 'what reached the bank';
    case 'between-lines':
      return 'belongs to a line of another day';
    case 'payout-left':
      return `payout ${because.payout} left the channel`;
    case 'receipt-left':
      return `receipt ${because.receipt} left the channel`;
    case 'fee-at-bank':
      return 'gross less what reached the bank';
    case 'fee-by-schedule':
      return 'fee by the agreed schedule';
    case 'fee-as-learnt':
      return 'fee as the channel charged lately';
    case 'credited':
      return `credit note for invoice ${because.invoice}`;
    case 'credit-kept':
      return `${because.document} takes back what was paid already, kept for the payer`;
    case 'credit-used':
      return 'kept for the payer, now used';
    case 'credit-refunded':
      return 'kept for the payer, now paid back';
    case 'early-discount':
      return 'discount for paying early';
    case 'early-discount-tax':
      return `tax in the discount, code ${because.code}, ${formatPercent(because.rate)}`;
    case 'written-off':
      return 'remainder written off';
    case 'statement-rule':
      return `statement rule “${because.rule}”`;
    case 'booked-on-sheet':
      return 'booked here on the sheet';
    case 'rest-chosen':
      return 'the rest, where you put it';
    case 'reverses':
      return `reverses journal ${because.journal}`;
  }
}
