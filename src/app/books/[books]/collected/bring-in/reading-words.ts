import type { ReceiptField, ReceiptProfile } from '@/formats/receipts/profile';

/** What each field is called on screen. */
export const FIELD_WORDS: Readonly<Record<ReceiptField, string>> = {
  id: 'id',
  kind: 'kind: receipt, refund, payout',
  time: 'date, with or without time',
  clock: 'time of day',
  currency: 'currency',
  gross: 'gross',
  paidIn: 'money in',
  paidOut: 'money out',
  fee: 'fee',
  net: 'net',
  tip: 'tip in it',
  discount: 'discount given',
  payer: 'payer’s name',
  email: 'payer’s email',
  payerId: 'channel’s id of the payer',
  document: 'document number',
  item: 'item',
  units: 'units',
  tax: 'tax in it',
  note: 'note',
  method: 'paid by',
  site: 'site',
  country: 'sent to country',
  region: 'region',
  fund: 'fund',
  payout: 'payout it is in',
  refundOf: 'receipt it gives back',
};

/** Fields that hold an amount. */
export const AMOUNTS: readonly ReceiptField[] = ['gross', 'paidIn', 'paidOut', 'fee', 'net', 'tip', 'discount', 'tax'];

export const SHAPES = { receipts: 'is one receipt', 'till-days': 'belongs to a till’s day' } as const;
export const FEE_SIGNS = { plus: 'without a sign', minus: 'with a minus' } as const;
export const TAXES = { included: 'is in the amount', added: 'comes on top of it' } as const;

/** What rows of one kind can be, by what the file is. */
export type RowKind = 'receipt' | 'refund' | 'chargeback' | 'payout' | 'skip' | 'sale' | 'tender' | 'tip';

export const ROW_KINDS: Readonly<Record<ReceiptProfile['shape'], Readonly<Partial<Record<RowKind, string>>>>> = {
  receipts: {
    receipt: 'are receipts',
    refund: 'are refunds',
    chargeback: 'are chargebacks or returned debits',
    payout: 'are payouts',
    skip: 'are passed over',
  },
  'till-days': {
    sale: 'are what was sold',
    tender: 'are how it was paid',
    tip: 'are tips',
    payout: 'are payouts',
    skip: 'are passed over',
  },
};

/** The list of the profile that rows of a kind stand in; all others are receipts, or what was sold. */
const LISTS = {
  refund: 'refunds',
  chargeback: 'chargebacks',
  payout: 'payouts',
  skip: 'skipped',
  tender: 'tenders',
  tip: 'tips',
} as const;
type Listed = keyof typeof LISTS;

export function rowKind(profile: ReceiptProfile, value: string): RowKind {
  const kinds = ROW_KINDS[profile.shape];
  const listed = (Object.keys(LISTS) as Listed[]).find((kind) => kind in kinds && profile[LISTS[kind]].includes(value));
  return listed ?? (profile.shape === 'receipts' ? 'receipt' : 'sale');
}

/** The profile with rows of this value read as a kind. */
export function withRowKind(profile: ReceiptProfile, value: string, kind: RowKind): ReceiptProfile {
  const lists = (Object.keys(LISTS) as Listed[]).map((of) => [
    LISTS[of],
    [...profile[LISTS[of]].filter((one) => one !== value), ...(of === kind ? [value] : [])],
  ]);
  return { ...profile, ...Object.fromEntries(lists) };
}
