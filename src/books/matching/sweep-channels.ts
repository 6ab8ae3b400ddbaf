import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { dayNumber, type ReceiptColumns, type SweepChannel, type SweepHabit } from '@/core/matching';
import { feeOf, type FeeSteps } from '@/core/channels';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';
import { feeStepsOf } from '../channels/fee-steps';
import type { Reading } from '../store';

/** Days of the calendar before the first line whose receipts are looked at: a run and its lag lie within. */
const DAYS_BACK = 45;
/** Working days a run may take beyond the usual, in days of the calendar with a long weekend. */
const PATIENCE = 6;
const LONGEST_SPAN = 7;

interface Row {
  readonly id: number;
  readonly channel: number;
  readonly account: AccountId;
  readonly date: PlainDate;
  readonly held: Minor;
  readonly fee: Minor | null;
  readonly taken: 0 | 1;
}

interface ChannelRow {
  readonly id: number;
  readonly name: string;
  readonly lag: number;
}

function columnsOf(rows: readonly Row[], takes: FeeSteps): ReceiptColumns {
  return {
    count: rows.length,
    id: Int32Array.from(rows, (row) => row.id),
    day: Int32Array.from(rows, (row) => dayNumber(row.date)),
    net: Float64Array.from(rows, ({ held, fee, date }) => held - (fee ?? feeOf(held, takes.on(date)))),
    taken: Uint8Array.from(rows, (row) => row.taken),
  };
}

/**
 * What the deposits of these days on each bank account may be runs of: the posted receipts of its channels in their own order,
 * with those that a payout or a match already carries, which part the others. Channels in another currency are left out.
 */
export async function sweepChannels(
  db: Reading,
  from: PlainDate,
  to: PlainDate,
): Promise<Map<AccountId, SweepChannel[]>> {
  const channels = await sql<ChannelRow>`
    SELECT c.id, c.name, c.payout_days AS lag FROM channel c
    WHERE c.currency = (SELECT currency FROM books) AND EXISTS (SELECT 1 FROM receipt r
      WHERE r.channel_id = c.id AND r.payout_ref = '' AND r.match_id IS NULL AND r.journal_id IS NOT NULL
        AND r.not_held <> r.gross AND r.book_date BETWEEN date(${from}, ${`-${DAYS_BACK} days`}) AND ${to})
    ORDER BY c.id
  `.execute(db);
  const takes = await feeStepsOf(db);
  const found = new Map<AccountId, SweepChannel[]>();
  for (const channel of channels.rows) {
    const { rows } = await sql<Row>`
      SELECT r.id, r.channel_id AS channel, coalesce(s.bank_account_id, c.bank_account_id) AS account,
        r.book_date AS date, r.gross - r.not_held AS held, r.fee,
        r.payout_ref <> '' OR r.match_id IS NOT NULL AS taken
      FROM receipt r JOIN channel c ON c.id = r.channel_id LEFT JOIN site s ON s.id = r.site_id
      WHERE r.channel_id = ${channel.id} AND r.journal_id IS NOT NULL AND r.not_held <> r.gross
        AND r.book_date BETWEEN date(${from}, ${`-${DAYS_BACK} days`}) AND ${to}
      ORDER BY r.occurred_at, r.id
    `.execute(db);
    const byAccount = new Map<AccountId, Row[]>();
    for (const row of rows) {
      const list = byAccount.get(row.account);
      if (list) list.push(row);
      else byAccount.set(row.account, [row]);
    }
    const habit: SweepHabit = { shortestLag: 0, longestLag: channel.lag + PATIENCE, longestSpan: LONGEST_SPAN };
    for (const [account, own] of byAccount) {
      const feesKnown = own.every(({ fee, taken }) => fee !== null || taken === 1);
      const one = {
        name: channel.name,
        receipts: columnsOf(own, takes.get(channel.id)!),
        habit,
        facts: null,
        feesKnown,
      };
      found.set(account, [...(found.get(account) ?? []), one]);
    }
  }
  return found;
}
