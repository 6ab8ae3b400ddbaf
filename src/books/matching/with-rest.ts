import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import { bookDates, type PlainDate } from '@/core/calendar';
import {
  claimCash,
  claimConverted,
  claimTotals,
  weighClaims,
  wordingOf,
  type CashBox,
  type Claim,
  type ConvertedLine,
  type ForeignPayout,
  type Proposal,
  type TotalsChannel,
} from '@/core/matching';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';
import { NO_SCHEDULE } from '../channels/fee-steps';
import type { Reading } from '../store';
import { FREE_PAYOUT, HABIT } from './free-payouts';

type Deposit = ConvertedLine & { readonly account: AccountId };

interface Span {
  readonly from: PlainDate;
  readonly to: PlainDate;
}

/** Cash and cheques on hand with what was there day by day, and the bank's words for what was banked of them before. */
async function cashBoxes(db: Reading, { from, to }: Span): Promise<CashBox[]> {
  const accounts = await db
    .selectFrom('account')
    .select(['id', 'code', 'name', 'role'])
    .where('role', 'in', ['cash_on_hand', 'cheques_on_hand', 'cash_difference', 'drawings'])
    .orderBy('code')
    .execute();
  const boxes = accounts.filter(({ role }) => role === 'cash_on_hand' || role === 'cheques_on_hand');
  if (boxes.length === 0) return [];
  const ids = JSON.stringify(boxes.map(({ id }) => id));
  const days = await sql<{ account: AccountId; day: PlainDate; balance: Minor }>`
    SELECT * FROM (
      SELECT account_id AS account, day, sum(debit - credit) OVER (PARTITION BY account_id ORDER BY day) AS balance
      FROM account_day WHERE account_id IN (SELECT value FROM json_each(${ids})) AND day <= ${to})
    WHERE day >= date(${from}, '-45 days') ORDER BY account, day
  `.execute(db);
  const wordings = await sql<{ account: AccountId; text: string }>`
    SELECT p.ref_id AS account, l.text || ' ' || l.counterparty AS text
    FROM match_part p JOIN match_line m ON m.match_id = p.match_id AND m.live = 1 AND m.place = 1
    JOIN statement_line l ON l.id = m.statement_line_id
    WHERE p.kind = 'account' AND p.live = 1 AND p.ref_id IN (SELECT value FROM json_each(${ids}))
    ORDER BY l.book_date DESC LIMIT 500
  `.execute(db);
  // A gap in the till is said to be one where the books have an account for it, else taken by the owner (recipe 15).
  const gaps =
    accounts.find(({ role }) => role === 'cash_difference') ?? accounts.find(({ role }) => role === 'drawings');
  return boxes.map(({ id, name, role }) => ({
    account: id,
    name,
    days: days.rows.filter(({ account }) => account === id),
    differences: role === 'cash_on_hand' ? (gaps?.id ?? null) : null,
    wordings: new Set(wordings.rows.filter(({ account }) => account === id).map(({ text }) => wordingOf(text))),
  }));
}

/** Channels that state no fee and have no schedule, with their takings that nothing explains, for each bank account. */
async function totalsChannels(db: Reading, { from, to }: Span): Promise<(TotalsChannel & { bank: AccountId })[]> {
  const { rows: channels } = await sql<{
    id: number;
    name: string;
    bank: AccountId;
    fees: AccountId;
    lag: number;
    cut: number;
  }>`
    SELECT c.id, c.name, c.day_cut AS cut, c.bank_account_id AS bank, c.fee_account_id AS fees, c.payout_days AS lag FROM channel c
    WHERE ${NO_SCHEDULE} AND c.currency = (SELECT currency FROM books)
      AND EXISTS (SELECT 1 FROM receipt r WHERE r.channel_id = c.id AND r.fee IS NULL AND r.match_id IS NULL
        AND r.payout_ref = '' AND r.journal_id IS NOT NULL)
    ORDER BY c.id
  `.execute(db);
  const found: (TotalsChannel & { bank: AccountId })[] = [];
  const { zone } = await db.selectFrom('books').select('zone').executeTakeFirstOrThrow();
  const dayOf = bookDates(zone);
  for (const { id, name, bank, fees, lag, cut } of channels) {
    const { rows: receipts } = await sql<{ id: number; at: string; gross: Minor }>`
      SELECT id, occurred_at AS at, gross - not_held AS gross FROM receipt
      WHERE channel_id = ${id} AND match_id IS NULL AND payout_ref = '' AND journal_id IS NOT NULL AND not_held <> gross
        AND book_date BETWEEN date(${from}, '-30 days') AND ${to}
      ORDER BY occurred_at, id
    `.execute(db);
    const days = new Map<PlainDate, { gross: number; receipts: number[] }>();
    for (const { id: receipt, at, gross } of receipts) {
      const day = dayOf(new Date(Date.parse(at) - cut * 60_000));
      const of = days.get(day) ?? { gross: 0, receipts: [] };
      days.set(day, of);
      of.gross += gross;
      of.receipts.push(receipt);
    }
    const { rows: rates } = await sql<{ rate: number }>`
      SELECT CAST(round(-m.rest * 10000.0 / sum(p.gross)) AS INTEGER) AS rate
      FROM match m JOIN match_part p ON p.match_id = m.id AND p.kind = 'receipt' AND p.live = 1
      JOIN receipt r ON r.id = p.ref_id AND r.channel_id = ${id}
      WHERE m.undone_at IS NULL AND m.rest_account_id = ${fees} GROUP BY m.id ORDER BY m.id DESC LIMIT 50
    `.execute(db);
    found.push({
      name,
      bank,
      fees,
      usualLag: lag,
      slack: HABIT.slack,
      days: [...days].map(([day, { gross, receipts: ids }]) => ({ day, gross: gross as Minor, receipts: ids })),
      rates: rates.map(({ rate }) => rate),
    });
  }
  return found;
}

/** Payouts in other currencies that are on their way. */
async function foreignPayouts(db: Reading, { from, to }: Span): Promise<ForeignPayout[]> {
  const { rows } = await sql<ForeignPayout>`
    SELECT f.*, p.currency, p.net AS "foreign", c.fx_account_id AS differences,
      coalesce((SELECT sum(carried) FROM receipt r WHERE r.payout_id = f.id), 0) AS carried
    FROM (SELECT ${FREE_PAYOUT} WHERE p.match_id IS NULL AND p.currency <> (SELECT currency FROM books)
      AND p.book_date BETWEEN date(${from}, '-30 days') AND ${to}) f
    JOIN payout p ON p.id = f.id JOIN channel c ON c.id = p.channel_id
    WHERE NOT EXISTS (SELECT 1 FROM receipt r WHERE r.payout_id = f.id AND r.carried IS NULL) ORDER BY f.id
  `.execute(db);
  return rows;
}

/** Deposits that leave a rest: cash that is short, takings less a fee that nobody states, payouts that were converted. */
export async function withRest(db: Reading, deposits: readonly Deposit[]): Promise<Map<number, Proposal>> {
  if (deposits.length === 0) return new Map();
  const dates = deposits.map(({ date }) => date).sort();
  const span: Span = { from: dates[0]!, to: dates.at(-1)! };
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const calendar = workingCalendar(country);
  const claims: Claim[] = [...claimCash(deposits, await cashBoxes(db, span))];
  for (const channel of await totalsChannels(db, span)) {
    claims.push(
      ...claimTotals(
        deposits.filter(({ account }) => account === channel.bank),
        channel,
        calendar,
      ),
    );
  }
  claims.push(...claimConverted(deposits, await foreignPayouts(db, span), calendar, HABIT));
  return weighClaims(claims);
}
