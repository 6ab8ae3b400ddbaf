import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

/** What a channel last said it held, beside what these books know of it at that moment. Minor units of its currency. */
export interface HeldAsRead {
  readonly day: PlainDate;
  /** The channel's own word. */
  readonly said: Minor;
  /** Receipts taken by then and not paid out by then, fees taken off, posted or not. */
  readonly ours: Minor;
  /** Receipts that have changed at the source since they were posted, and were not taken over yet. */
  readonly changedSince: number;
}

/** The newest reading of a channel; null where it never was asked. */
export async function heldAsRead(db: Reading, channel: number): Promise<HeldAsRead | null> {
  const reading = await db
    .selectFrom('reading')
    .select(['book_date as day', 'read_at as at', 'amount as said'])
    .where('channel_id', '=', channel)
    .orderBy('book_date', 'desc')
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!reading) return null;
  const { rows } = await sql<{ ours: Minor; changed: number }>`
    SELECT
      (SELECT coalesce(sum(gross - not_held - coalesce(fee, 0)), 0) FROM receipt
        WHERE channel_id = ${channel} AND payout_id IS NULL AND occurred_at <= ${reading.at})
      + (SELECT coalesce(sum(r.gross - r.not_held - coalesce(r.fee, 0)), 0) FROM payout p
        JOIN receipt r ON r.payout_id = p.id
        WHERE p.channel_id = ${channel} AND p.book_date >= ${reading.day} AND p.paid_at > ${reading.at}
          AND r.occurred_at <= ${reading.at}) AS ours,
      (SELECT count(*) FROM receipt_change c JOIN receipt r ON r.id = c.receipt_id WHERE r.channel_id = ${channel}) AS changed
  `.execute(db);
  const { ours, changed } = rows[0]!;
  return { day: reading.day, said: reading.said, ours, changedSince: changed };
}
