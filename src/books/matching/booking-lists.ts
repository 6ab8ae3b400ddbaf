import type { AccountId } from '@/core/ledger';
import type { BasisPoints } from '@/core/money';
import { listDimensions } from '../dimensions/dimensions';
import type { Reading } from '../store';
import { payerCreditAccount } from './kept-over';
import { restAccounts } from './rest-accounts';

/** What some of a statement line can be booked to and under. */
export async function bookingLists(db: Reading) {
  const taxCodes = await db
    .selectFrom('tax_code')
    .select(['id', 'code', 'rate', 'account_id as account'])
    .where('archived', '=', 0)
    .orderBy('code')
    .execute();
  return {
    payerCredit: await payerCreditAccount(db),
    accounts: await restAccounts(db),
    taxCodes: taxCodes.map((row) => ({ ...row, rate: row.rate as BasisPoints, account: row.account as AccountId })),
    dimensions: (await listDimensions(db)).map(({ id, name, values }) => ({
      id,
      name,
      values: values.filter((value) => value.active === 1).map((value) => ({ id: value.id, name: value.name })),
    })),
  };
}
