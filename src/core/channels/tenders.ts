/** What a payer handed over, as far as it decides where the money is: everything else is with the channel. */
export type TenderKind = 'cash' | 'cheque' | 'gift-card' | 'channel';

const WORDS: Readonly<Record<string, TenderKind>> = {
  cash: 'cash',
  'notes and coins': 'cash',
  cheque: 'cheque',
  check: 'cheque',
  'gift card': 'gift-card',
  giftcard: 'gift-card',
  'gift voucher': 'gift-card',
  voucher: 'gift-card',
};

/** Tells a method as an export writes it, whatever its case and separators: “Gift-Card” is a gift card used. */
export function tenderKind(method: string): TenderKind {
  return (
    WORDS[method] ??
    WORDS[
      method
        .trim()
        .toLowerCase()
        .replace(/[\s_-]+/g, ' ')
    ] ??
    'channel'
  );
}
