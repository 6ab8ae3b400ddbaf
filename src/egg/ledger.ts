import { sql } from 'kysely';
import { becauseWords, type Because } from '@/core/ledger';
import { parsePlainDate, type PlainDate } from '@/core/calendar';
import { formatAmount, sum, type Minor } from '@/core/money';
import { accountBalances } from '@/books/ledger/balances';
import type { Reading } from '@/books/store';
import type { EggCommand } from './commands';
import { aligned, answer, limitOf, UsageError } from './output';

function dayOf(text: string | undefined): PlainDate | undefined {
  if (text === undefined) return undefined;
  const day = parsePlainDate(text);
  if (day === null) throw new UsageError(`--as-of is a day like 2026-11-16, not ${text}.`);
  return day;
}

const currencyOf = (db: Reading) => db.selectFrom('books').select('currency').executeTakeFirstOrThrow();

/** What the books say. */
export const LEDGER: Readonly<Record<string, EggCommand>> = {
  'trial-balance': {
    takes: '[--as-of <day>]',
    does: 'lists every account with its balance; debits and credits come to the same',
    async run(place, { books, 'as-of': day }) {
      const asOf = dayOf(day);
      const { rows, currency } = await place.read(books, async (db) => ({
        rows: await accountBalances(db, asOf),
        ...(await currencyOf(db)),
      }));
      const of = rows.filter((row) => row.debit !== 0 || row.credit !== 0);
      const side = (pick: (balance: number) => number) =>
        sum(of.map(({ balance }) => Math.max(0, pick(balance)) as Minor));
      const [debits, credits] = [side((balance) => balance), side((balance) => -balance)];
      const money = (amount: number) => (amount > 0 ? formatAmount(amount as Minor, currency) : '');
      const table = of.map((row) => [row.code, row.name, money(row.balance), money(-row.balance)]);
      const value = {
        asOf: asOf ?? null,
        currency,
        accounts: of.map(({ code, name, balance }) => ({ code, name, balance })),
        debits,
        credits,
      };
      return answer(
        value,
        aligned(['account', '', 'debit', 'credit'], [...table, ['', '', money(debits), money(credits)]], [2, 3]),
      );
    },
  },
  register: {
    takes: '--account <code> [--as-of <day>] [--limit <n>]',
    does: 'lists the lines of an account, oldest first, each with the balance after it',
    async run(place, { books, account, 'as-of': day, limit }) {
      if (account === undefined) throw new UsageError('Say which account with --account.');
      const [asOf, most] = [dayOf(day) ?? '9999-12-31', limitOf(limit) ?? -1];
      const { head, rows, currency } = await place.read(books, async (db) => {
        const row = await db
          .selectFrom('account')
          .select(['id', 'code', 'name'])
          .where('code', '=', account)
          .executeTakeFirst();
        if (!row) throw new UsageError(`There is no account ${account}.`);
        const { rows: all } = await sql<{
          date: string;
          journal: number;
          memo: string;
          amount: Minor;
          running: Minor;
          because: string;
        }>`
          SELECT * FROM (
            SELECT l.book_date AS date, l.journal_id AS journal, j.memo, l.base_amount AS amount, l.because, l.line_no,
              sum(l.base_amount) OVER (ORDER BY l.book_date, l.journal_id, l.line_no) AS running
            FROM journal_line l JOIN journal j ON j.id = l.journal_id
            WHERE l.account_id = ${row.id} AND l.book_date <= ${asOf}
            ORDER BY l.book_date DESC, l.journal_id DESC, l.line_no DESC LIMIT ${most}
          ) ORDER BY date, journal, line_no`.execute(db);
        return { head: row, rows: all, ...(await currencyOf(db)) };
      });
      const lines = rows.map(({ because, ...row }) => ({
        ...row,
        because: becauseWords(JSON.parse(because) as Because),
      }));
      const table = lines.map((row) => [
        row.date,
        String(row.journal),
        formatAmount(row.amount, currency),
        formatAmount(row.running, currency),
        row.memo,
      ]);
      return answer(
        { account: head.code, name: head.name, currency, lines },
        aligned(['day', 'entry', 'amount', 'balance', ''], table, [1, 2, 3]),
      );
    },
  },
  clearing: {
    takes: '[--as-of <day>]',
    does: 'lists what each channel holds by the books, as of a day',
    async run(place, { books, 'as-of': day }) {
      const asOf = dayOf(day);
      const { rows, channels, currency } = await place.read(books, async (db) => ({
        rows: await accountBalances(db, asOf),
        channels: await db
          .selectFrom('channel')
          .select(['name', 'clearing_account_id as account'])
          .orderBy('id')
          .execute(),
        ...(await currencyOf(db)),
      }));
      const of = channels.map(({ name, account }) => {
        const row = rows.find(({ id }) => id === account)!;
        return { channel: name, account: row.code, balance: row.balance };
      });
      const table = of.map((row) => [row.channel, row.account, formatAmount(row.balance, currency)]);
      return answer(
        { asOf: asOf ?? null, currency, channels: of },
        aligned(['channel', 'account', currency], table, [2]),
      );
    },
  },
};
