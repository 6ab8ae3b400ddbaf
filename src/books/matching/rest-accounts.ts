import type { AccountId, AccountRole } from '@/core/ledger';
import type { Reading } from '../store';

/** The books keep these by documents; the rest of a deposit may not be put there past them. */
export const KEPT_BY_DOCUMENTS: readonly AccountRole[] = [
  'receivable',
  'clearing',
  'bank',
  'bank_transit',
  'sales_tax',
  'payer_credit',
];

export interface RestAccount {
  readonly id: AccountId;
  readonly code: string;
  readonly name: string;
  /** Takes channel fees: the usual place for the remainder of a deposit. */
  readonly fees: boolean;
}

/** Accounts to which the rest of a statement line can be booked. */
export async function restAccounts(db: Reading): Promise<RestAccount[]> {
  const rows = await db.selectFrom('account').select(['id', 'code', 'name', 'role']).orderBy('code').execute();
  return rows
    .filter((row) => row.role === null || !KEPT_BY_DOCUMENTS.includes(row.role))
    .map(({ role, ...row }) => ({ ...row, fees: role === 'fees' }));
}
