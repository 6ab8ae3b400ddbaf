import { sql } from 'kysely';
import { TOTAL_FEE } from '../payouts/total-fee';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';
import type { Reading } from '../store';
import { heldAsRead, type HeldAsRead } from './held-as-read';

/**
 * Why a channel's clearing account holds what it holds. All in minor units, debits less credits; the figures are related
 * by: balance = payouts + waiting − notPosted − differs + other.
 */
export interface ClearingProof {
  readonly channel: string;
  /** The channel's, which all figures are in. */
  readonly currency: Currency;
  readonly account: AccountId;
  readonly code: string;
  /** What the ledger says. */
  readonly balance: Minor;
  /** Announced payouts that have not reached the bank: their net. */
  readonly payouts: { readonly count: number; readonly amount: Minor };
  /** Receipts that are posted, and neither in a payout nor explained at the bank: what clearing holds of them. */
  readonly waiting: { readonly count: number; readonly amount: Minor };
  /** Receipts inside a payout that are not posted: the payout is larger than the ledger knows. */
  readonly notPosted: { readonly count: number; readonly amount: Minor };
  /** Payouts whose own net is not what their receipts come to: net less receipts. */
  readonly differs: { readonly count: number; readonly amount: Minor };
  /** What none of these explains: 0 unless something was booked to clearing past its documents. */
  readonly other: Minor;
  /** Clearing is at exactly what is still in transit, or at zero. */
  readonly proves: boolean;
  /** The channel's own word on what it holds, where it was fetched. */
  readonly read: HeldAsRead | null;
}

interface Figure {
  count: number;
  amount: Minor;
}

async function figure(db: Reading, query: ReturnType<typeof sql>): Promise<Figure> {
  return (await sql<Figure>`SELECT count(*) AS count, coalesce(sum(amount), 0) AS amount FROM (${query})`.execute(db))
    .rows[0]!;
}

/** Proves each channel's clearing account against what is in transit, from the documents and not from the ledger. */
export async function clearingProofs(db: Reading): Promise<ClearingProof[]> {
  const channels = await db
    .selectFrom('channel')
    .innerJoin('account', 'account.id', 'channel.clearing_account_id')
    .select(['channel.id', 'channel.name', 'channel.currency', 'account.id as account', 'account.code'])
    .orderBy('channel.id')
    .execute();
  const proofs: ClearingProof[] = [];
  for (const { id, name, currency, account, code } of channels) {
    const { balance } = await db
      .selectFrom('account_day')
      .select(sql<Minor>`coalesce(sum(own), 0)`.as('balance'))
      .where('account_id', '=', account)
      .executeTakeFirstOrThrow();
    const payouts = await figure(
      db,
      sql`SELECT p.net + ${TOTAL_FEE} AS amount FROM payout p WHERE p.channel_id = ${id} AND p.match_id IS NULL`,
    );
    const waiting = await figure(
      db,
      sql`SELECT gross - not_held - coalesce(fee, 0) AS amount FROM receipt
          WHERE channel_id = ${id} AND payout_id IS NULL AND match_id IS NULL AND journal_id IS NOT NULL
            AND not_held <> gross`,
    );
    const notPosted = await figure(
      db,
      sql`SELECT gross - not_held - coalesce(fee, 0) AS amount FROM ${OUTSIDE_THE_LEDGER}
          WHERE channel_id = ${id} AND payout_id IS NOT NULL`,
    );
    const differs = await figure(
      db,
      sql`SELECT p.net - (p.receipt_gross - p.receipt_fee) AS amount FROM payout p
          WHERE p.channel_id = ${id} AND p.net <> p.receipt_gross - p.receipt_fee AND ${TOTAL_FEE} = 0`,
    );
    const unposted = await matchedButNotPosted(db, id);
    const explained = payouts.amount + waiting.amount - notPosted.amount - unposted.amount - differs.amount;
    const other = (balance - explained) as Minor;
    proofs.push({
      channel: name,
      currency,
      account,
      code,
      balance,
      payouts,
      waiting,
      notPosted: {
        count: notPosted.count + unposted.count,
        amount: (notPosted.amount + unposted.amount) as Minor,
      },
      differs,
      other,
      proves: balance === payouts.amount + waiting.amount,
      read: await heldAsRead(db, id),
    });
  }
  return proofs;
}

/** Receipts that are not posted or set aside: few, and asked for by name, since the planner would go through all. */
const OUTSIDE_THE_LEDGER = sql`(
  SELECT * FROM receipt INDEXED BY receipt_not_posted WHERE journal_id IS NULL AND aside IS NULL
  UNION ALL SELECT * FROM receipt INDEXED BY receipt_aside WHERE aside IS NOT NULL)`;

/** Receipts that explain a deposit themselves and were reversed since: clearing gave up what it no longer holds. */
function matchedButNotPosted(db: Reading, channel: number): Promise<Figure> {
  return figure(
    db,
    sql`SELECT gross - not_held - coalesce(fee, 0) AS amount FROM ${OUTSIDE_THE_LEDGER}
        WHERE channel_id = ${channel} AND match_id IS NOT NULL`,
  );
}

export interface DayBalance {
  readonly day: PlainDate;
  readonly balance: Minor;
}

/** An account's balance at the end of each day on which it moved, oldest first, from a day on. */
export async function dailyBalances(db: Reading, account: AccountId, from: PlainDate): Promise<DayBalance[]> {
  const { rows } = await sql<DayBalance>`
    SELECT day, balance FROM (
      SELECT day, sum(debit - credit) OVER (ORDER BY day) AS balance FROM account_day WHERE account_id = ${account}
    ) WHERE day >= ${from} ORDER BY day
  `.execute(db);
  return rows;
}

/** The bank account in the ledger against the bank's own last word. Minor units. */
export interface BankProof {
  readonly account: AccountId;
  readonly code: string;
  readonly name: string;
  readonly ledger: Minor;
  /** Closing balance of the newest statement that tells one, with what came after it in others; null before there is one. */
  readonly statement: { readonly closing: Minor; readonly day: PlainDate | null; readonly file: string } | null;
  /** Statement lines that are not explained yet: in the bank's figure, not in the ledger's. */
  readonly toExplain: { readonly count: number; readonly amount: Minor };
  /** What was set aside, minor units: at the bank, and no business of these books. */
  readonly aside: Minor;
  /** Statement less what is to explain and what is set aside, less ledger: 0 proves. */
  readonly difference: Minor;
}

export async function bankProofs(db: Reading): Promise<BankProof[]> {
  const { rows } = await sql<{
    account: AccountId;
    code: string;
    name: string;
    ledger: Minor;
    closing: Minor | null;
    day: PlainDate | null;
    file: string | null;
    count: number;
    amount: Minor;
    aside: Minor;
  }>`
    SELECT a.id AS account, a.code, a.name,
      coalesce((SELECT sum(debit - credit) FROM account_day d WHERE d.account_id = a.id), 0) AS ledger,
      s.closing + coalesce((SELECT sum(amount) FROM statement_line l
        WHERE l.account_id = a.id AND l.book_date > s.last_day), 0) AS closing, s.last_day AS day, r.file_name AS file,
      (SELECT count(*) FROM statement_line l WHERE l.account_id = a.id AND l.match_id IS NULL AND l.aside IS NULL) AS count,
      coalesce((SELECT sum(amount) FROM statement_line l WHERE l.account_id = a.id AND l.match_id IS NULL AND l.aside IS NULL), 0) AS amount,
      coalesce((SELECT sum(amount) FROM statement_line l WHERE l.account_id = a.id AND l.aside IS NOT NULL), 0) AS aside
    FROM bank_account b JOIN account a ON a.id = b.account_id
    LEFT JOIN statement s ON s.id = (
      SELECT id FROM statement WHERE account_id = a.id AND closing IS NOT NULL AND last_day IS NOT NULL ORDER BY last_day DESC, id DESC LIMIT 1)
    LEFT JOIN run r ON r.id = s.run_id
    ORDER BY a.code
  `.execute(db);
  return rows.map(({ closing, day, file, count, amount, ...row }) => ({
    ...row,
    statement: closing === null ? null : { closing, day, file: file! },
    toExplain: { count, amount },
    difference: (closing === null ? 0 : closing - amount - row.aside - row.ledger) as Minor,
  }));
}
