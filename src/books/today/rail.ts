import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { atRate, sum, ZERO, type Currency, type Minor } from '@/core/money';
import { manyCurrencies } from '../currencies/many';
import { Rates } from '../currencies/rates';
import { SEEN_AT_BANK } from '../payouts/list';
import { todayOf } from '../setup/today';
import type { Reading } from '../store';

/** What the rail says at each station. Amounts in minor units of the books' currency. */
export interface Rail {
  readonly name: string;
  readonly currency: Currency;
  readonly today: PlainDate;
  readonly closedThrough: PlainDate | null;
  readonly owed: {
    readonly account: AccountId;
    readonly amount: Minor;
    readonly overdue: number;
    readonly notPosted: number;
  };
  /** Collected and not in the ledger yet: gross. */
  readonly collected: { readonly amount: Minor; readonly notPosted: number };
  readonly inTransit: {
    readonly account: AccountId | null;
    readonly amount: Minor;
    readonly late: number;
    readonly next: PlainDate | null;
  };
  readonly banked: { readonly account: AccountId | null; readonly amount: Minor; readonly toExplain: number };
}

/** What is not posted, in the books' currency at the rates of today, where channels collect in several; else null. */
async function unpostedAtRates(db: Reading, today: PlainDate): Promise<Minor | null> {
  const own = await manyCurrencies(db);
  if (own === null) return null;
  const { rows } = await sql<{ currency: Currency; amount: Minor }>`
    SELECT currency, sum(gross) AS amount FROM receipt WHERE journal_id IS NULL AND aside IS NULL GROUP BY currency
  `.execute(db);
  const rates = await Rates.load(db);
  return sum(
    rows.map(({ currency, amount }) => {
      const rate = currency === own ? null : rates.on(currency, today);
      return currency === own ? amount : rate === null ? ZERO : atRate(amount, rate, currency, own);
    }),
  );
}

export async function railOf(db: Reading, now: Date): Promise<Rail> {
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const today = todayOf(books, now);
  const balance = (role: string) => sql`(
    SELECT coalesce(sum(d.debit - d.credit), 0) FROM account a JOIN account_day d ON d.account_id = a.id
    WHERE a.role = ${role})`;
  // A station with several accounts behind it opens its own page instead of a register.
  const account = (role: string) =>
    sql`(SELECT CASE WHEN count(*) = 1 THEN min(id) END FROM account WHERE role = ${role})`;
  const { rows } = await sql<{
    receivable: AccountId;
    owed: Minor;
    overdue: number;
    invoices: number;
    collected: Minor;
    receipts: number;
    clearing: AccountId | null;
    transit: Minor;
    late: number;
    next: PlainDate | null;
    bank: AccountId | null;
    banked: Minor;
    lines: number;
  }>`
    SELECT ${account('receivable')} AS receivable, ${balance('receivable')} AS owed,
      (SELECT count(*) FROM invoice WHERE journal_id IS NOT NULL AND paid < gross AND due < ${today}) AS overdue,
      (SELECT count(*) FROM invoice WHERE journal_id IS NULL) AS invoices,
      (SELECT coalesce(sum(gross), 0) FROM receipt WHERE journal_id IS NULL AND aside IS NULL) AS collected,
      (SELECT count(*) FROM receipt WHERE journal_id IS NULL AND aside IS NULL) AS receipts,
      ${account('clearing')} AS clearing, ${balance('clearing')} AS transit,
      (SELECT count(*) FROM payout p WHERE match_id IS NULL AND expected_on < ${today} AND NOT ${SEEN_AT_BANK}) AS late,
      (SELECT min(expected_on) FROM payout WHERE match_id IS NULL AND expected_on >= ${today}) AS next,
      ${account('bank')} AS bank, ${balance('bank')} AS banked,
      (SELECT count(*) FROM proposal) AS lines
  `.execute(db);
  const r = rows[0]!;
  return {
    name: books.name,
    currency: books.currency,
    today,
    closedThrough: books.closed_through,
    owed: { account: r.receivable, amount: r.owed, overdue: r.overdue, notPosted: r.invoices },
    collected: { amount: (await unpostedAtRates(db, today)) ?? r.collected, notPosted: r.receipts },
    inTransit: { account: r.clearing, amount: r.transit, late: r.late, next: r.next },
    banked: { account: r.bank, amount: r.banked, toExplain: r.lines },
  };
}
