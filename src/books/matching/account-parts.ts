import { sql } from 'kysely';
import type { AccountId, AccountRole } from '@/core/ledger';
import type { BasisPoints } from '@/core/money';
import type { Refusal } from '../command';
import type { Reading } from '../store';
import type { AccountPartInput, PartInput } from './part-input';
import type { AccountRow } from './part-rows';
import { KEPT_BY_DOCUMENTS } from './rest-accounts';

interface Known {
  readonly name: string;
  readonly role: AccountRole | null;
  readonly asks: readonly { readonly dimension: number; readonly name: string }[];
}

/** Accounts, tax codes and dimension values that parts of sheets name, looked up at once. */
export class AccountShelf {
  private constructor(
    private readonly accounts: ReadonlyMap<AccountId, Known>,
    private readonly taxes: ReadonlyMap<number, NonNullable<AccountRow['tax']>>,
    private readonly values: ReadonlyMap<number, { readonly dimension: number; readonly name: string }>,
  ) {}

  static async of(db: Reading, inputs: readonly PartInput[]): Promise<AccountShelf> {
    if (!inputs.some(({ kind }) => kind === 'account')) return new AccountShelf(new Map(), new Map(), new Map());
    const accounts = await db.selectFrom('account').select(['id', 'code', 'name', 'role']).execute();
    const asks = await sql<{ account: AccountId; dimension: number; name: string }>`
      SELECT r.account_id AS account, r.dimension_id AS dimension, d.name
      FROM account_dimension r JOIN dimension d ON d.id = r.dimension_id
    `.execute(db);
    const taxes = await db.selectFrom('tax_code').select(['id', 'code', 'rate', 'account_id as account']).execute();
    const values = await db.selectFrom('dimension_value').select(['id', 'dimension_id as dimension', 'name']).execute();
    return new AccountShelf(
      new Map(
        accounts.map(({ id, code, name, role }) => [
          id,
          { name: `${code} ${name}`, role, asks: asks.rows.filter(({ account }) => account === id) },
        ]),
      ),
      new Map(taxes.map(({ id, code, rate, account }) => [id, { code, rate: rate as BasisPoints, account }])),
      new Map(values.map(({ id, dimension, name }) => [id, { dimension, name }])),
    );
  }

  /** What a part is booked as, or why it cannot be: what documents keep is not booked past them, what is asked for is said. */
  row(input: AccountPartInput): AccountRow | Refusal {
    const account = this.accounts.get(input.id);
    if (!account) return { code: 'not-found', what: 'account', id: String(input.id) };
    if (KEPT_BY_DOCUMENTS.some((kept) => kept === account.role)) return { code: 'rest-account', account: account.name };
    const lacking = account.asks.find(({ dimension }) => input.dimensions[dimension] === undefined);
    if (lacking) return { code: 'dimension-asked', account: account.name, dimension: lacking.name };
    const tax = input.taxCode === null ? null : this.taxes.get(input.taxCode);
    if (tax === undefined) return { code: 'not-found', what: 'tax code', id: String(input.taxCode) };
    const said = Object.entries(input.dimensions);
    const values = said.map(([dimension, id]) => {
      const value = this.values.get(id);
      return value?.dimension === Number(dimension) ? value.name : null;
    });
    const wrong = values.indexOf(null);
    if (wrong >= 0) return { code: 'not-found', what: 'value of a dimension', id: String(said[wrong]![1]) };
    return { name: account.name, tax, values: values as string[] };
  }
}
