import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { PayoutHabit, PayoutOfChannel } from '@/core/matching';
import type { Reading } from '../store';

/** How far from its usual day a payout may land and still be called usual, and at all considered (working days). */
const SLACK = 1;
const FARTHEST = 15;
export const HABIT: PayoutHabit = { slack: SLACK, farthest: FARTHEST };

/** A payout p that is on its way, as the engine takes it, with where it is from. */
export const FREE_PAYOUT = sql`p.id, p.external_id AS reference, p.reference_key AS "key", p.book_date AS "left", p.net,
  coalesce(CASE WHEN EXISTS (SELECT 1 FROM site s WHERE s.channel_id = c.id AND s.bank_account_id IS NOT NULL) THEN (
    SELECT s.bank_account_id FROM receipt r JOIN site s ON s.id = r.site_id WHERE r.payout_id = p.id LIMIT 1) END,
    c.bank_account_id) AS account, c.payout_days AS usualLag, c.id AS channel FROM payout p JOIN channel c ON c.id = p.channel_id`;

/** Payouts on their way that left on these days and that no line has on its sheet. */
export async function payoutsOnTheirWay(db: Reading, from: PlainDate, to: PlainDate): Promise<PayoutOfChannel[]> {
  const { rows } = await sql<PayoutOfChannel>`
    SELECT ${FREE_PAYOUT} WHERE p.match_id IS NULL AND p.currency = (SELECT currency FROM books)
      AND p.book_date BETWEEN date(${from}, '-30 days') AND ${to}
      AND NOT EXISTS (SELECT 1 FROM proposal_part x JOIN proposal q ON q.statement_line_id = x.statement_line_id
        WHERE x.kind = 'payout' AND x.ref_id = p.id AND x.rank = 0 AND q.deep = 0)
  `.execute(db);
  return rows;
}
