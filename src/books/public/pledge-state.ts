import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

/** What came of a gift that was begun on a page; null where there is none of it on that page. */
export async function pledgeState(
  db: Reading,
  page: number,
  pledge: number,
): Promise<{
  readonly came: { readonly name: string; readonly date: PlainDate; readonly amount: Minor } | null;
} | null> {
  const { rows } = await sql<{ name: string | null; date: PlainDate; amount: Minor }>`
    SELECT r.external_id AS name, r.book_date AS date, r.gross AS amount
    FROM pledge g JOIN payment p ON p.purpose = 'gift' AND p.purpose_id = g.id
    LEFT JOIN receipt r ON r.channel_id = p.channel_id AND r.external_id = p.external_id
    WHERE g.id = ${pledge} AND g.page_id = ${page}
  `.execute(db);
  const row = rows[0];
  if (!row) return null;
  return { came: row.name === null ? null : { name: row.name, date: row.date, amount: row.amount } };
}
