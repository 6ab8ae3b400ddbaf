import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';
import { plainDateInput } from '../command/plain-date-input';
import { CHANNEL_KINDS } from '../store/schema/channels';

const name = z.string().trim().min(1).max(80);
const account = z.custom<AccountId>((value) => Number.isSafeInteger(value) && (value as number) > 0, 'an account');
const amount = z.custom<Minor>(
  (value) => Number.isSafeInteger(value) && (value as number) >= 0,
  'an amount of at least 0',
);

/** An account that is there, or one to be made with the channel. */
export const accountChoice = z.union([
  z.object({ use: account }),
  z.object({ make: z.object({ code: z.string().trim().min(1).max(20), name }) }),
]);
export type AccountChoiceInput = z.infer<typeof accountChoice>;

/** The accounts a channel may need beside clearing and bank, each with the role it has in the chart. */
export const CHANNEL_ACCOUNTS = [
  { field: 'fees', role: 'fees', class: 'expense', words: 'Fees', required: true },
  { field: 'refunds', role: 'refunds', class: 'income', words: 'Refunds', required: true },
  { field: 'tips', role: 'tips_payable', class: 'liability', words: 'Tips payable', required: true },
  { field: 'discounts', role: 'discounts', class: 'income', words: 'Discounts', required: false },
  {
    field: 'giftCards',
    role: 'gift_card_liability',
    class: 'liability',
    words: 'Gift cards not used yet',
    required: false,
  },
  { field: 'chargebacks', role: 'chargebacks', class: 'expense', words: 'Chargebacks', required: false },
  { field: 'fx', role: 'fx_difference', class: 'expense', words: 'Currency difference', required: false },
] as const;

const site = z.object({
  /** Null where it is to be made. */
  id: z.number().int().nullable().optional(),
  code: z.string().trim().min(1).max(20),
  name,
  cash: accountChoice.nullable(),
  bank: account.nullable(),
});

const outstanding = z.object({ id: z.string().trim().min(1).max(80), date: plainDateInput, net: amount });

/** Everything that is settled when a channel is opened. */
export const channelSettings = z.object({
  name,
  kind: z.enum(CHANNEL_KINDS),
  currency: z.string().regex(/^[A-Z]{3}$/, 'a currency code of three letters'),
  bank: account,
  clearing: z.object({ code: z.string().trim().min(1).max(20), name }),
  /** Working days from a payout to the bank. */
  payoutDays: z.number().int().min(0).max(60),
  /** Basis points of gross, and minor units a receipt. */
  feeRate: z.number().int().min(0).max(10_000),
  feeFixed: amount,
  fees: accountChoice,
  refunds: accountChoice,
  tips: accountChoice,
  discounts: accountChoice.nullable(),
  giftCards: accountChoice.nullable(),
  chargebacks: accountChoice.nullable(),
  fx: accountChoice.nullable(),
  income: account.nullable(),
  taxCode: z.number().int().nullable(),
  sites: z.array(site).max(200),
  mode: z.enum(['each', 'summary']),
  historyFrom: plainDateInput.nullable(),
  postsItself: z.boolean(),
  paidWhen: z.enum(['debit-day', 'collected']),
  payer: z.number().int().nullable(),
  /** Payouts that had left the channel and not reached the bank when its history begins. */
  outstanding: z.array(outstanding).max(500),
  /** Wait until they have landed, outside these books; or begin with them as a balance in transit. */
  cutOver: z.enum(['wait', 'opening']),
  /** What takes the other side of a balance in transit. */
  openingAgainst: account.nullable(),
});
export type ChannelSettings = z.infer<typeof channelSettings>;

/** What can be changed of a channel once it is open: all but its kind, its currency and the account that is its own. */
export const channelEdit = channelSettings.omit({
  kind: true,
  currency: true,
  clearing: true,
  mode: true,
  outstanding: true,
  cutOver: true,
  openingAgainst: true,
});
export type ChannelEdit = z.infer<typeof channelEdit>;

/** What has been answered so far of a channel that is being opened. */
export const channelDraft = channelSettings.partial();
export type ChannelDraft = z.infer<typeof channelDraft>;
