import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { becauseWords, type AccountId, type Because } from '@/core/ledger';
import { minor, subtract, type Minor } from '@/core/money';
import { PAGE_SIZE } from '../lists/page';
import type { JournalSource, Reading } from '../store';
import { accountBalances, type AccountBalance } from './balances';

export interface RegisterRow {
  readonly journal: number;
  readonly lineNo: number;
  readonly date: PlainDate;
  readonly memo: string;
  readonly source: JournalSource;
  /** Minor units; a debit is positive. */
  readonly amount: Minor;
  /** The account's balance after this line, debits less credits. */
  readonly running: Minor;
  readonly because: string;
  readonly reversedBy: number | null;
}

export interface Register {
  readonly account: AccountBalance;
  readonly rows: readonly RegisterRow[];
  readonly next: string | null;
  readonly count: number;
}

/** Where a page of a register begins: date, journal and line of the last row before it. */
export interface RegisterCursor {
  readonly date: string;
  readonly journal: number;
  readonly line: number;
}

export function parseRegisterCursor(text: string | undefined): RegisterCursor | null {
  const match = /^(\d{4}-\d{2}-\d{2})_(\d{1,15})_(\d{1,9})$/.exec(text ?? '');
  return match ? { date: match[1]!, journal: Number(match[2]), line: Number(match[3]) } : null;
}

/** Lines booked under one value of a dimension; all where none is named. */
const booked = (value: number | null) =>
  value === null
    ? sql`1`
    : sql`EXISTS (SELECT 1 FROM journal_line_dimension d
        WHERE d.journal_id = l.journal_id AND d.line_no = l.line_no AND d.value_id = ${value})`;

/** Lines of an account, newest first; `running` is filled in by {@link accountRegister}. */
export async function registerRows(
  db: Reading,
  account: AccountId,
  after: RegisterCursor | null,
  limit: number,
  value: number | null = null,
): Promise<Omit<RegisterRow, 'running'>[]> {
  const { rows } = await sql<Omit<RegisterRow, 'running'>>`
    SELECT l.journal_id AS journal, l.line_no AS lineNo, l.book_date AS date, j.memo, j.source_kind AS source,
           l.base_amount AS amount, l.because, (SELECT id FROM journal r WHERE r.reverses_id = j.id) AS reversedBy
    FROM journal_line l JOIN journal j ON j.id = l.journal_id
    WHERE l.account_id = ${account} AND ${booked(value)}
      AND ${after ? sql`(l.book_date, l.journal_id, l.line_no) < (${after.date}, ${after.journal}, ${after.line})` : sql`1`}
    ORDER BY l.book_date DESC, l.journal_id DESC, l.line_no DESC LIMIT ${limit}
  `.execute(db);
  return rows.map((row) => ({ ...row, because: becauseWords(JSON.parse(row.because) as Because) }));
}

/** The balance right before a page: all days before its first row's day, and what of that day comes up to the row. */
async function balanceThrough(
  db: Reading,
  account: AccountId,
  row: Omit<RegisterRow, 'running'>,
  value: number | null,
): Promise<Minor> {
  if (value !== null) {
    const { rows } = await sql<{ balance: number }>`
      SELECT coalesce(sum(l.base_amount), 0) AS balance FROM journal_line l
      WHERE l.account_id = ${account} AND ${booked(value)}
        AND (l.book_date, l.journal_id, l.line_no) <= (${row.date}, ${row.journal}, ${row.lineNo})
    `.execute(db);
    return minor(rows[0]!.balance);
  }
  const { rows } = await sql<{ balance: number }>`
    SELECT coalesce((SELECT sum(debit - credit) FROM account_day WHERE account_id = ${account} AND day < ${row.date}), 0)
      + (SELECT sum(base_amount) FROM journal_line WHERE account_id = ${account} AND book_date = ${row.date}
         AND (journal_id, line_no) <= (${row.journal}, ${row.lineNo})) AS balance
  `.execute(db);
  return minor(rows[0]!.balance);
}

/** What a dimension value comes to on an account: count of lines, debits and credits, minor units. */
async function totalsUnder(db: Reading, account: AccountId, value: number) {
  const { rows } = await sql<{ count: number; debit: Minor; credit: Minor }>`
    SELECT count(*) AS count, coalesce(sum(max(l.base_amount, 0)), 0) AS debit,
           -coalesce(sum(min(l.base_amount, 0)), 0) AS credit
    FROM journal_line l WHERE l.account_id = ${account} AND ${booked(value)}
  `.execute(db);
  return rows[0]!;
}

/** The values that lines of an account are booked under, named with their dimension. */
export async function registerValues(db: Reading, account: AccountId): Promise<{ id: number; name: string }[]> {
  return valuesWhere(
    db,
    sql`EXISTS (SELECT 1 FROM journal_line_dimension x
      JOIN journal_line l ON l.journal_id = x.journal_id AND l.line_no = x.line_no
      WHERE x.value_id = v.id AND l.account_id = ${account})`,
  );
}

/** The values that anything is booked under. */
export async function valuesInUse(db: Reading): Promise<{ id: number; name: string }[]> {
  return valuesWhere(db, sql`EXISTS (SELECT 1 FROM journal_line_dimension x WHERE x.value_id = v.id)`);
}

async function valuesWhere(db: Reading, condition: ReturnType<typeof sql>): Promise<{ id: number; name: string }[]> {
  const { rows } = await sql<{ id: number; name: string }>`
    SELECT v.id, d.name || ' ' || v.name AS name FROM dimension_value v JOIN dimension d ON d.id = v.dimension_id
    WHERE ${condition} ORDER BY d.id, v.name
  `.execute(db);
  return rows;
}

/**
 * One page of an account's register, newest first, each line with the balance after it. With a dimension's value, only what
 * is booked under it, and the balance of just that.
 */
export async function accountRegister(
  db: Reading,
  account: AccountId,
  after: RegisterCursor | null,
  value: number | null = null,
): Promise<Register | null> {
  const whole = (await accountBalances(db)).find((row) => row.id === account);
  if (!whole) return null;
  const under = value === null ? null : await totalsUnder(db, account, value);
  const head = under
    ? { ...whole, debit: under.debit, credit: under.credit, balance: subtract(under.debit, under.credit) }
    : whole;
  const fetched = await registerRows(db, account, after, PAGE_SIZE + 1, value);
  const page = fetched.slice(0, PAGE_SIZE);
  let running = page[0] ? await balanceThrough(db, account, page[0], value) : (0 as Minor);
  const rows = page.map((row): RegisterRow => {
    const withBalance = { ...row, running };
    running = subtract(running, row.amount);
    return withBalance;
  });
  const last = rows.at(-1);
  const { count } = await db
    .selectFrom('account_day')
    .select(sql<number>`coalesce(sum(lines), 0)`.as('count'))
    .where('account_id', '=', account)
    .executeTakeFirstOrThrow();
  return {
    account: head,
    rows,
    next: fetched.length > PAGE_SIZE ? `${last!.date}_${last!.journal}_${last!.lineNo}` : null,
    count: under?.count ?? count,
  };
}
