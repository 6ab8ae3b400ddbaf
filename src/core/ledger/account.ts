declare const accountIdBrand: unique symbol;

export type AccountId = number & { readonly [accountIdBrand]: 'AccountId' };

export const ACCOUNT_CLASSES = ['asset', 'liability', 'equity', 'income', 'expense'] as const;
export type AccountClass = (typeof ACCOUNT_CLASSES)[number];

/** What an account is for, where the books themselves need to find it. An account without a role is the user's own. */
export const ACCOUNT_ROLES = [
  'receivable',
  'clearing',
  'bank',
  'bank_transit',
  'cash_on_hand',
  'cheques_on_hand',
  'sales_tax',
  'tips_payable',
  'payer_credit',
  'fees',
  'refunds',
  'discounts',
  'gift_card_liability',
  'chargebacks',
  'fx_difference',
  'rounding',
  'cash_difference',
  'drawings',
] as const;
export type AccountRole = (typeof ACCOUNT_ROLES)[number];

/** Roles that one books file has exactly one account for; the others may stand on several. */
export const SINGLE_ROLES: readonly AccountRole[] = ['receivable', 'sales_tax', 'payer_credit'];
