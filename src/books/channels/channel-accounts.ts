import type { AccountClass, AccountId, AccountRole } from '@/core/ledger';
import type { Currency } from '@/core/money';
import type { Refusal } from '../command';
import type { Reading } from '../store';
import { CHANNEL_ACCOUNTS, type AccountChoiceInput, type ChannelSettings } from './channel-settings';

/** A refusal found while accounts are looked up; the command turns it into its outcome. */
export class Refused extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.code);
  }
}

export async function accountRow(db: Reading, id: AccountId) {
  const row = await db.selectFrom('account').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw new Refused({ code: 'not-found', what: 'account', id: String(id) });
  return row;
}

export async function makeAccount(
  db: Reading,
  code: string,
  name: string,
  of: AccountClass,
  role: AccountRole,
  currency: string,
) {
  const taken = await db.selectFrom('account').select('name').where('code', '=', code).executeTakeFirst();
  if (taken) throw new Refused({ code: 'name-taken', what: 'account', name: `${code} ${taken.name}` });
  const { id } = await db
    .insertInto('account')
    .values({ code, name, class: of, role, currency })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** The account that was chosen, or is made now; one that does not fit is refused. */
export async function chosen(
  db: Reading,
  choice: AccountChoiceInput,
  of: AccountClass,
  role: AccountRole,
  currency: string,
  decides: 'fees' | 'income' | 'cash',
) {
  if ('make' in choice) return makeAccount(db, choice.make.code, choice.make.name, of, role, currency);
  const row = await accountRow(db, choice.use);
  const fits = row.class === of && (row.role === null || row.role === role);
  if (!fits) throw new Refused({ code: 'account-unfit', account: `${row.code} ${row.name}`, decides });
  return row.id;
}

/** What of the settings says where the channel's money is booked. */
type Booked = Pick<ChannelSettings, 'bank' | 'income' | 'taxCode' | (typeof CHANNEL_ACCOUNTS)[number]['field']>;

/**
 * The accounts of a channel as columns of its row; those that were said to be made are made. Its bank account must be in the
 * books' own currency: a channel in another converts what it pays out, and then needs an account for the difference.
 */
export async function channelAccounts(db: Reading, settings: Booked, currency: Currency, base: Currency) {
  const bank = await db
    .selectFrom('bank_account')
    .selectAll()
    .where('account_id', '=', settings.bank)
    .executeTakeFirst();
  const bankRow = await accountRow(db, settings.bank);
  if (bank?.currency !== base) {
    throw new Refused({ code: 'account-unfit', account: `${bankRow.code} ${bankRow.name}`, decides: 'bank' });
  }
  if (currency !== base && settings.fx === null) {
    throw new Refused({
      code: 'invalid-input',
      field: 'fx',
      expected: `an account for the currency difference, since it pays out ${currency} into ${base}`,
    });
  }
  const accounts: Partial<Record<(typeof CHANNEL_ACCOUNTS)[number]['field'], AccountId>> = {};
  for (const { field, role, class: of } of CHANNEL_ACCOUNTS) {
    const choice = settings[field];
    // What the channel takes and gives is booked in the books' own currency; only clearing is in the channel's.
    if (choice) accounts[field] = await chosen(db, choice, of, role, base, of === 'expense' ? 'fees' : 'income');
  }
  return {
    bank_account_id: settings.bank,
    fee_account_id: accounts.fees!,
    refund_account_id: accounts.refunds!,
    tips_account_id: accounts.tips!,
    discount_account_id: accounts.discounts ?? null,
    gift_card_account_id: accounts.giftCards ?? null,
    chargeback_account_id: accounts.chargebacks ?? null,
    fx_account_id: accounts.fx ?? null,
    income_account_id: settings.income,
    tax_code_id: settings.taxCode,
  };
}
