import type { AccountClass, AccountId, AccountRole } from '@/core/ledger';
import { KEPT_BY_DOCUMENTS } from '../matching/rest-accounts';

export interface AccountChoice {
  readonly id: AccountId;
  readonly name: string;
  readonly class: AccountClass;
  readonly role: AccountRole | null;
}

/** Accounts that may be chosen for a decision; the short list of what fits, not the whole chart. */
export function choicesFor(field: 'income' | 'deposit' | 'fees', accounts: readonly AccountChoice[]): AccountChoice[] {
  const free = accounts.filter(({ role }) => !KEPT_BY_DOCUMENTS.some((kept) => kept === role));
  switch (field) {
    case 'income':
      return free.filter((a) => a.class === 'income' || (a.class === 'liability' && a.role !== 'tips_payable'));
    case 'deposit':
      return free.filter((a) => a.class === 'asset');
    case 'fees':
      return free.filter((a) => a.class === 'expense');
  }
}
