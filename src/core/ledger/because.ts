/**
 * Why a line of an entry landed on its account. Kept with the line as data; {@link becauseWords} makes the sentence
 * where a person reads it.
 */
export type Because =
  | { readonly why: 'opening' }
  | { readonly why: 'owed-on-invoice'; readonly document: string }
  | { readonly why: 'income-of-item'; readonly item: string }
  | { readonly why: 'income-of-channel'; readonly channel: string }
  | { readonly why: 'tax-code'; readonly code: string; readonly rate: number }
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
  | { readonly why: 'reached-bank'; readonly line: number }
  | { readonly why: 'payout-left'; readonly payout: string }
  | { readonly why: 'receipt-left'; readonly receipt: string }
  | { readonly why: 'fee-at-bank'; readonly schedule: number; readonly rest: number }
  | { readonly why: 'fee-by-schedule' }
  | { readonly why: 'rest-chosen' }
  | { readonly why: 'reverses'; readonly journal: number };

const percent = (basisPoints: number) => `${basisPoints / 100} %`;

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
    case 'tax-code':
      return `tax code ${because.code}, ${percent(because.rate)}`;
    case 'held-by-channel':
      return `${because.channel} holds it until it pays out`;
    case 'settles-invoice':
      return `settles invoice ${because.document}`;
    case 'over-invoice':
      return `more than invoice ${because.document} has open, kept for the payer`;
    case 'unknown-document':
      return `${because.document} is no invoice of these books, kept for the payer`;
    case 'tip':
      return 'tip, owed to staff';
    case 'fee-in-export':
      return `fee that ${because.channel} states`;
    case 'fee-given-back':
      return `fee that ${because.channel} gave back`;
    case 'refund':
      return because.of ? `refund of ${because.of}` : 'refund';
    case 'refund-tax':
      return `tax in the refund, code ${because.code}, ${percent(because.rate)}`;
    case 'refund-tip':
      return 'tip in the refund';
    case 'reached-bank':
      return 'what reached the bank';
    case 'payout-left':
      return `payout ${because.payout} left the channel`;
    case 'receipt-left':
      return `receipt ${because.receipt} left the channel`;
    case 'fee-at-bank':
      return 'gross less what reached the bank';
    case 'fee-by-schedule':
      return 'fee by the agreed schedule';
    case 'rest-chosen':
      return 'the rest, where you put it';
    case 'reverses':
      return `reverses journal ${because.journal}`;
  }
}
