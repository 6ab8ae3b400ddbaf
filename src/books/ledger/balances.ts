import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountClass, AccountId, AccountRole } from '@/core/ledger';
import { add, minor, subtract, ZERO, type Minor } from '@/core/money';
import type { Reading } from '../store';
import type { Movement } from './journal-writer';

export interface AccountBalance {
  readonly id: AccountId;
  readonly code: string;
  readonly name: string;
  readonly class: AccountClass;
  readonly role: AccountRole | null;
  /** Totals of all debits and credits, minor units. */
  readonly debit: Minor;
  readonly credit: Minor;
  /** Debits less credits. */
  readonly balance: Minor;
}

/** Every account with its balance at the end of a day, or of all days; in order of the codes. */
export async function accountBalances(db: Reading, asOf?: PlainDate): Promise<AccountBalance[]> {
  const rows = await db
    .selectFrom('account')
    .leftJoin('account_day', (j) => {
      const join = j.onRef('account_day.account_id', '=', 'account.id');
      return asOf ? join.on('account_day.day', '<=', asOf) : join;
    })
    .select((e) => [
      'account.id',
      'account.code',
      'account.name',
      'account.class',
      'account.role',
      e.fn.coalesce(e.fn.sum<number>('account_day.debit'), e.lit(0)).as('debit'),
      e.fn.coalesce(e.fn.sum<number>('account_day.credit'), e.lit(0)).as('credit'),
    ])
    .groupBy('account.id')
    .orderBy('account.code')
    .execute();
  return rows.map((row) => {
    const debit = minor(row.debit);
    const credit = minor(row.credit);
    return { ...row, debit, credit, balance: subtract(debit, credit) };
  });
}

/** As {@link accountBalances}, of only what is booked under one value of a dimension. */
export async function accountBalancesUnder(db: Reading, asOf: PlainDate, value: number): Promise<AccountBalance[]> {
  const { rows } = await sql<Omit<AccountBalance, 'balance'>>`
    SELECT a.id, a.code, a.name, a.class, a.role, coalesce(t.debit, 0) AS debit, coalesce(t.credit, 0) AS credit
    FROM account a LEFT JOIN (
      SELECT l.account_id, sum(max(l.base_amount, 0)) AS debit, -sum(min(l.base_amount, 0)) AS credit
      FROM journal_line_dimension x JOIN journal_line l ON l.journal_id = x.journal_id AND l.line_no = x.line_no
      WHERE x.value_id = ${value} AND l.book_date <= ${asOf} GROUP BY l.account_id
    ) AS t ON t.account_id = a.id ORDER BY a.code
  `.execute(db);
  return rows.map((row) => ({ ...row, balance: subtract(row.debit, row.credit) }));
}

/** A balance that an entry moves. Debits less credits, minor units. */
export interface BalanceMove {
  readonly account: AccountId;
  readonly code: string;
  readonly name: string;
  readonly before: Minor;
  readonly after: Minor;
}

/** The balances that these movements touch, before and after; to be asked once the movements are written. */
export async function balanceMoves(db: Reading, movements: readonly Movement[]): Promise<BalanceMove[]> {
  if (movements.length === 0) return [];
  const after = new Map((await accountBalances(db)).map((account) => [account.id, account]));
  return movements.map(({ account, debit, credit }) => {
    const { code, name, balance } = after.get(account)!;
    return { account, code, name, before: subtract(add(balance, credit), debit), after: balance };
  });
}

/** What moved since these balances were asked. */
export async function movesSince(db: Reading, before: readonly AccountBalance[]): Promise<BalanceMove[]> {
  const was = new Map(before.map(({ id, balance }) => [id, balance]));
  return (await accountBalances(db)).flatMap(({ id, code, name, balance }) => {
    const from = was.get(id) ?? ZERO;
    return from === balance ? [] : [{ account: id, code, name, before: from, after: balance }];
  });
}
