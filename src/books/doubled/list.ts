import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { reasonWords, type Certainty, type Reason } from '@/core/matching';
import type { Currency, Minor } from '@/core/money';
import { PartsShelf } from '../matching/load-parts';
import { partInput, type PartInput } from '../matching/part-input';
import type { SheetPart } from '../matching/parts';
import type { Reading } from '../store';
import { INCOME_ALONE } from './booked-to-income';

/** Whether a part x that explains a deposit is still free to. */
const STILL_FREE = sql`CASE x.kind
  WHEN 'payout' THEN EXISTS (SELECT 1 FROM payout p WHERE p.id = x.ref_id AND p.match_id IS NULL)
  WHEN 'receipt' THEN EXISTS (SELECT 1 FROM receipt r WHERE r.id = x.ref_id AND r.match_id IS NULL AND r.payout_id IS NULL
    AND r.journal_id IS NOT NULL)
  ELSE EXISTS (SELECT 1 FROM invoice i WHERE i.id = x.ref_id AND i.gross - i.paid >= x.amount) END`;

/** Deposits d on lines s that may count twice now: booked to income alone by m, and explained by what is still free. */
const NOW = sql`doubled d JOIN statement_line s ON s.id = d.statement_line_id JOIN match m ON m.id = s.match_id
  WHERE d.denied = 0 AND ${INCOME_ALONE} AND NOT EXISTS (
    SELECT 1 FROM doubled_part x WHERE x.statement_line_id = d.statement_line_id AND NOT ${STILL_FREE})`;

/** The ids of the lines whose money may count twice. */
export const DOUBLED_LINES = sql`(SELECT d.statement_line_id FROM ${NOW})`;

/** The line at which a payout p is at the bank already, booked there as income; null where it is not. */
export const DOUBLED_AT = sql<number | null>`(SELECT y.statement_line_id FROM doubled_part y
  WHERE y.kind = 'payout' AND y.ref_id = p.id AND y.statement_line_id IN ${DOUBLED_LINES})`;

/** How many deposits may count twice now. */
export async function countDoubled(db: Reading): Promise<number> {
  const { rows } = await sql<{ n: number }>`SELECT count(*) AS n FROM ${NOW}`.execute(db);
  return rows[0]!.n;
}

/** A deposit that may count twice; its amount in minor units. */
export interface DoubledLine {
  readonly line: number;
  readonly date: PlainDate;
  readonly amount: Minor;
  /** What explains it, by name: the first, and how many there are. */
  readonly first: string;
  readonly parts: number;
}

/** Deposits that may count twice, the oldest first. */
export async function doubledLines(db: Reading, limit: number): Promise<DoubledLine[]> {
  const { rows } = await sql<DoubledLine>`
    SELECT s.id AS line, s.book_date AS date, s.amount,
      (SELECT CASE x.kind WHEN 'payout' THEN 'payout ' || (SELECT external_id FROM payout WHERE id = x.ref_id)
        WHEN 'receipt' THEN 'receipt ' || (SELECT external_id FROM receipt WHERE id = x.ref_id)
        ELSE 'invoice ' || (SELECT number FROM invoice WHERE id = x.ref_id) END
        FROM doubled_part x WHERE x.statement_line_id = d.statement_line_id AND x.no = 1) AS first,
      (SELECT count(*) FROM doubled_part x WHERE x.statement_line_id = d.statement_line_id) AS parts
    FROM ${NOW} ORDER BY s.book_date, s.id LIMIT ${limit}
  `.execute(db);
  return rows;
}

/** What explains a deposit that is booked to income, as a sheet lays it. */
export interface Doubled {
  readonly match: number;
  readonly certainty: Extract<Certainty, 'proven' | 'probable'>;
  readonly reasons: string;
  readonly parts: readonly PartInput[];
  readonly restTo: AccountId | null;
}

/** What a line may count twice with; null where nothing does. */
export async function doubledOf(db: Reading, line: number): Promise<Doubled | null> {
  const { rows } = await sql<Omit<Doubled, 'parts'> & { parts: string }>`
    SELECT m.id AS match, d.certainty, d.reasons, d.rest_account_id AS restTo, (
      SELECT json_group_array(json_object('kind', kind, 'id', ref_id, 'amount', amount)) FROM (
        SELECT * FROM doubled_part WHERE statement_line_id = d.statement_line_id ORDER BY no)) AS parts
    FROM ${NOW} AND d.statement_line_id = ${line}
  `.execute(db);
  return rows[0] ? { ...rows[0], parts: partInput.array().parse(JSON.parse(rows[0].parts)) } : null;
}

/** What a line may count twice with, as a page shows it. */
export interface DoubledSheet {
  readonly parts: readonly SheetPart[];
  readonly because: readonly string[];
}

export async function doubledSheet(
  db: Reading,
  line: { readonly id: number; readonly book_date: PlainDate; readonly currency: Currency },
): Promise<DoubledSheet | null> {
  const doubled = await doubledOf(db, line.id);
  if (!doubled) return null;
  const shelf = await PartsShelf.of(db, doubled.parts, line.currency, 'sheets');
  const found = shelf.look(doubled.parts, line.book_date);
  if ('refusal' in found) return null;
  const reasons = JSON.parse(doubled.reasons) as Reason[];
  return { parts: found.parts, because: reasons.map((reason) => reasonWords(reason, line.currency)) };
}
