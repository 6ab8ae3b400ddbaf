import { sql, type RawBuilder } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { BY_SCHEDULE, byScheduleAtOnce, NO_SCHEDULE } from '../channels/fee-steps';
import { TOTAL_FEE } from '../payouts/total-fee';
import type { Reading } from '../store';

/** What a fee was charged for: a receipt whose fee the channel gave, a payout that tells it in total, a deposit as confirmed. */
export type ChargeKind = 'receipt' | 'payout' | 'deposit';

/** Something a channel charged otherwise than by its schedule. Amounts in the channel's currency, minor units. */
export interface ChargedOtherwise {
  readonly kind: ChargeKind;
  /** Of the receipt, the payout, or the deposit's statement line. */
  readonly id: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly gross: Minor;
  readonly bySchedule: Minor;
  readonly charged: Minor;
}

/** Whether a channel states the fee of a receipt r, and it holds something of it. */
export const CHARGED = sql`r.kind = 'receipt' AND r.fee IS NOT NULL AND r.gross > r.not_held AND r.aside IS NULL`;

/** Whether the channel states no fee of a receipt r that it holds something of. */
const UNSTATED = sql`(r.fee IS NULL AND r.gross > r.not_held)`;

/** As agreed is what comes to the schedule receipt by receipt, or with its share rounded once over all of them. */
const agreedOf = (each: RawBuilder<unknown>, once: RawBuilder<unknown>) =>
  sql`CASE charged WHEN ${once} THEN ${once} ELSE ${each} END AS agreed`;

/** All that was charged, by its kind: channel, id, name, date, payer, gross, what was charged, and what its schedule says. */
export const CHARGES: Readonly<Record<ChargeKind, RawBuilder<unknown>>> = {
  receipt: sql`
    SELECT c.id AS channel, r.id, r.external_id AS name, r.book_date AS date, y.name AS payer,
      r.gross - r.not_held AS gross, r.fee AS charged, ${BY_SCHEDULE} AS agreed
    FROM receipt r JOIN channel c ON c.id = r.channel_id LEFT JOIN payer y ON y.id = r.payer_id WHERE ${CHARGED}`,
  // Of a payout that tells its fee in total only, over the receipts that state none.
  payout: sql`
    SELECT channel, id, name, date, NULL AS payer, gross, charged, ${agreedOf(sql`each`, sql`once`)} FROM (
      SELECT c.id AS channel, p.id, p.external_id AS name, p.book_date AS date, p.receipt_gross AS gross,
        ${TOTAL_FEE} AS charged, sum(${BY_SCHEDULE}) AS each, ${byScheduleAtOnce(UNSTATED)} AS once
      FROM payout p JOIN channel c ON c.id = p.channel_id JOIN receipt r ON r.payout_id = p.id AND r.kind = 'receipt' AND ${UNSTATED}
      WHERE p.unstated > 0 AND ${TOTAL_FEE} > 0 AND NOT ${NO_SCHEDULE} GROUP BY p.id)`,
  // Of a deposit of receipts: what was laid as their fees, and a rest that was booked as one.
  deposit: sql`
    SELECT channel, id, name, date, NULL AS payer, gross, charged,
      ${agreedOf(sql`stated + each`, sql`stated + once`)} FROM (
      SELECT c.id AS channel, l.id, coalesce(nullif(l.text, ''), nullif(l.counterparty, ''), l.reference) AS name,
        l.book_date AS date, sum(r.gross - r.not_held) AS gross,
        sum(p.fee) - CASE WHEN m.rest_account_id = c.fee_account_id THEN m.rest ELSE 0 END AS charged,
        sum(CASE WHEN ${UNSTATED} THEN 0 ELSE coalesce(r.fee, 0) END) AS stated,
        coalesce(sum(${BY_SCHEDULE}) FILTER (WHERE ${UNSTATED}), 0) AS each,
        ${byScheduleAtOnce(UNSTATED)} AS once
      FROM match m JOIN match_part p ON p.match_id = m.id AND p.kind = 'receipt' AND p.live = 1
      JOIN receipt r ON r.id = p.ref_id JOIN channel c ON c.id = r.channel_id
      JOIN match_line h ON h.match_id = m.id AND h.place = 1 JOIN statement_line l ON l.id = h.statement_line_id
      WHERE m.undone_at IS NULL GROUP BY m.id, c.id)`,
};

/** Of one kind and channel, what was charged otherwise. */
const otherwise = (kind: ChargeKind, channel: number) => sql`
  SELECT ${sql.lit(kind)} AS kind, id, name, date, payer, gross, agreed AS bySchedule, charged
  FROM (${CHARGES[kind]}) WHERE channel = ${channel} AND charged <> agreed`;

/** All that a channel charged otherwise, the newest first, up to so many. */
export async function chargedOtherwise(db: Reading, channel: number, most: number): Promise<ChargedOtherwise[]> {
  const { rows } = await sql<ChargedOtherwise>`
    SELECT * FROM (${otherwise('receipt', channel)} UNION ALL ${otherwise('payout', channel)}
      UNION ALL ${otherwise('deposit', channel)})
    ORDER BY date DESC, kind, id DESC LIMIT ${most}
  `.execute(db);
  return rows;
}
