import { sql, type RawBuilder } from 'kysely';
import type { Reading } from '../store';

/** Whether a match m is nothing but income: no document stands behind what it books. */
export const INCOME_ALONE = sql`(m.undone_at IS NULL
  AND (m.rest = 0 OR (SELECT class FROM account WHERE id = m.rest_account_id) = 'income')
  AND NOT EXISTS (SELECT 1 FROM match_part o LEFT JOIN account b ON b.id = o.ref_id AND o.kind = 'account'
    WHERE o.match_id = m.id AND (b.class IS NULL OR b.class <> 'income')))`;

/** Matches that book something to income, alone or beside documents: as a part, or as the rest. */
const AS_PART = sql`SELECT p.match_id AS id FROM account a
  JOIN match_part p ON p.kind = 'account' AND p.ref_id = a.id AND p.live = 1 WHERE a.class = 'income'`;
const AS_REST = sql`SELECT r.id FROM account a
  JOIN match r ON r.rest_account_id = a.id AND r.undone_at IS NULL WHERE a.class = 'income'`;

/** A receipt r that is posted and that no payout or deposit carries. */
const RECEIPT_WAITS = sql`r.journal_id IS NOT NULL AND r.match_id IS NULL AND r.payout_id IS NULL AND r.not_held <> r.gross`;

/** The days of what may have come: a deposit is at most so many days of the calendar after it. */
const DAYS_AFTER = 31;
/** The newest so many are asked. */
const MOST = 3_000;

/** Deposits that are to be held against what waits, by the ids of their lines. */
export interface DepositsToCheck {
  readonly ids: readonly number[];
  /** Whether something of each kind waits to be banked or paid at all. */
  readonly receipts: boolean;
  readonly invoices: boolean;
}

/**
 * Deposits booked straight to income, of those within, on days on which something that waits may have come; none where nothing
 * waits or nothing is booked so. `within` is a condition on a statement line l.
 */
export async function depositsToCheck(db: Reading, within: RawBuilder<unknown>): Promise<DepositsToCheck> {
  const none = { ids: [], receipts: false, invoices: false };
  const any = await sql<{ booked: 0 | 1 }>`SELECT EXISTS (${AS_PART}) OR EXISTS (${AS_REST}) AS booked`.execute(db);
  if (any.rows[0]!.booked === 0) return none;
  const { rows: days } = await sql<{ day: string; kind: 'payout' | 'receipt' }>`
    SELECT DISTINCT book_date AS day, 'payout' AS kind FROM payout WHERE match_id IS NULL
    UNION SELECT DISTINCT r.book_date, 'receipt' FROM receipt r WHERE ${RECEIPT_WAITS}
  `.execute(db);
  const { rows: owed } = await sql<{ first: string | null }>`
    SELECT min(issued) AS first FROM invoice WHERE journal_id IS NOT NULL AND paid < gross
  `.execute(db);
  const { first } = owed[0]!;
  if (days.length === 0 && first === null) return none;
  const { rows } = await sql<{ id: number }>`
    SELECT l.id FROM (${AS_PART} UNION ${AS_REST}) b JOIN match m ON m.id = b.id
    JOIN statement_line l ON l.match_id = m.id AND l.amount > 0
    WHERE ${within} AND ${INCOME_ALONE} AND (l.book_date >= ${first} OR EXISTS (
      SELECT 1 FROM json_each(${JSON.stringify(days.map(({ day }) => day))}) d
      WHERE d.value BETWEEN date(l.book_date, ${`-${DAYS_AFTER} days`}) AND l.book_date))
    ORDER BY l.book_date DESC, l.id DESC LIMIT ${MOST}
  `.execute(db);
  return {
    ids: rows.map(({ id }) => id),
    receipts: days.some(({ kind }) => kind === 'receipt'),
    invoices: first !== null,
  };
}
