import { sql } from 'kysely';
import { formatDay, type PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { negate, ZERO, type Currency, type Minor } from '@/core/money';
import type { Reading, Writing } from '../store';
import type { SheetPart } from './parts';

/** A statement line that is laid on the sheet of another. */
export interface LineRow {
  readonly id: number;
  readonly date: PlainDate;
  readonly amount: Minor;
  readonly account: AccountId;
  readonly accountName: string;
  readonly text: string;
  readonly currency: Currency;
}

export const LINE_COLUMNS = sql`l.id, l.book_date AS date, l.amount, l.account_id AS account, l.currency,
  (SELECT code || ' ' || name FROM account WHERE id = l.account_id) AS accountName,
  coalesce(nullif(l.text, ''), nullif(l.counterparty, ''), l.reference) AS text`;

/**
 * A line as part of the sheet of a line of `day`: its net is the opposite of what it moved, since that is explained here too.
 * Where it is of another day, what is in between is on `transit`, null as long as no account is there for it.
 */
export function linePart(row: LineRow, day: PlainDate, transit: AccountId | null): SheetPart {
  const net = negate(row.amount);
  return {
    kind: 'line',
    id: row.id,
    title: `Line of ${formatDay(row.date)} · ${row.accountName}`,
    note: row.text,
    date: row.date,
    gross: net,
    fee: ZERO,
    feeFrom: 'none',
    net,
    part: {
      kind: 'line',
      lineId: row.id,
      bank: row.account,
      amount: row.amount,
      transit: row.date === day ? null : transit,
    },
  };
}

export async function lineRows(db: Reading, ids: readonly number[]): Promise<LineRow[]> {
  if (ids.length === 0) return [];
  const { rows } = await sql<LineRow>`
    SELECT ${LINE_COLUMNS} FROM statement_line l WHERE l.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  return rows;
}

/** The account that holds what is between two days of the bank; null while these books have none. */
export async function transitAccount(db: Reading): Promise<AccountId | null> {
  const row = await db
    .selectFrom('account')
    .select('id')
    .where('role', '=', 'bank_transit')
    .orderBy('id')
    .executeTakeFirst();
  return row?.id ?? null;
}

/** As {@link transitAccount}, made where there is none: beside the bank account, under the next code that is free. */
export async function makeTransitAccount({ db }: Writing, bank: AccountId): Promise<AccountId> {
  const there = await transitAccount(db);
  if (there !== null) return there;
  const accounts = await db.selectFrom('account').select(['id', 'code', 'currency']).execute();
  const beside = accounts.find(({ id }) => id === bank)!;
  const used = new Set(accounts.map(({ code }) => code));
  const numeric = /^\d+$/.test(beside.code);
  let n = 1;
  const code = () => (numeric ? String(Number(beside.code) + n) : `${beside.code}-${n}`);
  while (used.has(code())) n++;
  const { id } = await db
    .insertInto('account')
    .values({
      code: code(),
      name: 'Transfers in transit',
      class: 'asset',
      role: 'bank_transit',
      currency: beside.currency,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}
