import type { PlainDate } from '@/core/calendar';
import { becauseWords, type AccountId, type Because, type EntryLine, type ForeignAmount } from '@/core/ledger';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';
import type { BalanceMove } from './balances';

/** One line of an entry as shown. A debit is positive, minor units. */
export interface EntryLineView {
  readonly account: AccountId;
  readonly code: string;
  readonly name: string;
  readonly amount: Minor;
  readonly because: string;
  /** The same in the account's own currency, where that is not the books'. */
  readonly foreign?: ForeignAmount;
}

/** What an entry writes, or wrote: its lines with their reasons, and the balances it moves. */
export interface EntryView {
  readonly date: PlainDate;
  readonly memo: string;
  readonly lines: readonly EntryLineView[];
  readonly moves: readonly BalanceMove[];
}

export type AccountNames = ReadonlyMap<AccountId, { readonly code: string; readonly name: string }>;

export async function accountNames(db: Reading): Promise<AccountNames> {
  const accounts = await db.selectFrom('account').select(['id', 'code', 'name']).execute();
  return new Map(accounts.map(({ id, code, name }) => [id, { code, name }]));
}

export function viewLines(lines: readonly EntryLine[], names: AccountNames): EntryLineView[] {
  return lines.map(({ account, amount, because, foreign }) => ({
    account,
    ...names.get(account)!,
    amount,
    because: becauseWords(because),
    ...(foreign && { foreign }),
  }));
}

export interface PostedJournal {
  readonly id: number;
  readonly date: PlainDate;
  readonly memo: string;
  readonly postedAt: string;
  readonly actor: string;
  readonly reverses: number | null;
  readonly reversedBy: number | null;
  readonly lines: readonly EntryLineView[];
}

/** A posted journal with its lines. */
export async function postedJournal(db: Reading, id: number): Promise<PostedJournal | null> {
  const journal = await db
    .selectFrom('journal')
    .leftJoin('journal as later', 'later.reverses_id', 'journal.id')
    .select([
      'journal.id',
      'journal.book_date as date',
      'journal.memo',
      'journal.posted_at as postedAt',
      'journal.actor',
      'journal.reverses_id as reverses',
      'later.id as reversedBy',
    ])
    .where('journal.id', '=', id)
    .executeTakeFirst();
  if (!journal) return null;
  return { ...journal, lines: viewLines(await journalLines(db, id), await accountNames(db)) };
}

/** The lines of a posted journal as its recipe gave them. */
export async function journalLines(db: Reading, id: number): Promise<EntryLine[]> {
  const rows = await db
    .selectFrom('journal_line')
    .innerJoin('books', (join) => join.on('books.id', '=', 1))
    .select(['account_id as account', 'base_amount as amount', 'because', 'amount as own'])
    .select(['journal_line.currency', 'books.currency as base'])
    .where('journal_id', '=', id)
    .orderBy('line_no')
    .execute();
  return rows.map(({ own, currency, base, ...row }) => ({
    ...row,
    because: JSON.parse(row.because) as Because,
    ...(currency !== base && { foreign: { currency, amount: own } }),
  }));
}
