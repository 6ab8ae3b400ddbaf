import type { Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { BasisPoints, Currency, Minor } from '@/core/money';

export const CHANNEL_KINDS = [
  'card-desk',
  'debit-bureau',
  'giving-page',
  'till',
  'transfers',
  'cash-and-cheques',
  'other',
] as const;

export type ChannelKind = (typeof CHANNEL_KINDS)[number];

export interface ChannelTable {
  id: Generated<number>;
  name: string;
  kind: ChannelKind;
  currency: Currency;
  clearing_account_id: AccountId;
  bank_account_id: AccountId;
  fee_account_id: AccountId;
  refund_account_id: AccountId;
  tips_account_id: AccountId;
  discount_account_id: AccountId | null;
  gift_card_account_id: AccountId | null;
  chargeback_account_id: AccountId | null;
  fx_account_id: AccountId | null;
  income_account_id: AccountId | null;
  tax_code_id: number | null;
  fee_rate: BasisPoints;
  fee_fixed: Minor;
  payout_days: number;
  history_from: PlainDate | null;
  posts_itself: Generated<0 | 1>;
  paid_when: Generated<'debit-day' | 'collected'>;
  payer_id: number | null;
  /** What was confirmed up to this day teaches nothing of it any more. */
  learns_from: Generated<PlainDate | null>;
  /** Minutes after midnight at which its day is cut. */
  day_cut: Generated<number>;
}

/** From a day on a channel takes this. */
export interface FeeStepTable {
  channel_id: number;
  since: PlainDate;
  rate: BasisPoints;
  fixed: Minor;
  /** Told by what was charged, and not agreed so far. */
  learnt: 0 | 1;
  fit: Generated<number>;
  looked_at: Generated<number>;
}

export interface SiteTable {
  id: Generated<number>;
  channel_id: number;
  code: string;
  name: string;
  cash_account_id: AccountId | null;
  bank_account_id: AccountId | null;
}

export type PostingMode = 'each' | 'summary';

export interface ChannelPostingTable {
  channel_id: number;
  from_day: PlainDate;
  mode: PostingMode;
}

export interface ChannelDraftTable {
  id: Generated<number>;
  settings: string;
  changed_at: string;
  actor: string;
}

export interface MapRuleTable {
  id: Generated<number>;
  position: number;
  name: string;
  active: 0 | 1;
  conditions: string;
  landing: string;
  changed_at: string;
  actor: string;
}

export interface MapDefaultTable {
  layer: 'item' | 'payer' | 'channel' | 'books';
  ref_id: number;
  field: string;
  value: number;
}

export interface ProfileTable {
  fingerprint: string;
  settings: string;
  used_at: string;
}

export interface PayerExternalTable {
  channel_id: number;
  external_id: string;
  payer_id: number;
}
