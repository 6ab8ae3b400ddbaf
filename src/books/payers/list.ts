import { sql } from 'kysely';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';

/** A payer with what is in the books of them. */
export interface PayerRow {
  readonly id: number;
  readonly name: string;
  readonly email: string;
  readonly invoices: number;
  /** Still open, in minor units of the books' currency. */
  readonly open: Minor;
  readonly receipts: number;
  /** Other names they are known by. */
  readonly alsoKnownAs: string;
}

export const PAYERS_SHOWN = 50;

/** Payers by name, those merged into another left out. `after` is the last name and id of the page before. */
export async function listPayers(
  db: Reading,
  text: string,
  after: { readonly name: string; readonly id: number } | null,
): Promise<{ rows: PayerRow[]; count: number; more: boolean }> {
  const like = `%${text.replace(/[%_]/g, '')}%`;
  const wanted =
    text === ''
      ? sql`p.merged_into IS NULL`
      : sql`p.merged_into IS NULL AND (p.name LIKE ${like} OR p.email LIKE ${like} OR EXISTS (
          SELECT 1 FROM payer_alias a WHERE a.payer_id = p.id AND (a.name LIKE ${like} OR a.email LIKE ${like})))`;
  const { rows } = await sql<PayerRow>`
    SELECT p.id, p.name, p.email,
      (SELECT count(*) FROM invoice v WHERE v.payer_id = p.id) AS invoices,
      (SELECT coalesce(sum(v.gross - v.paid), 0) FROM invoice v
        WHERE v.payer_id = p.id AND v.journal_id IS NOT NULL) AS open,
      (SELECT count(*) FROM receipt r WHERE r.payer_id = p.id) AS receipts,
      (SELECT coalesce(group_concat(nullif(a.name, ''), ', '), '') FROM payer_alias a
        WHERE a.payer_id = p.id AND a.name <> p.name) AS alsoKnownAs
    FROM payer p WHERE ${wanted} AND ${after ? sql`(p.name, p.id) > (${after.name}, ${after.id})` : sql`1`}
    ORDER BY p.name, p.id LIMIT ${PAYERS_SHOWN + 1}
  `.execute(db);
  const { rows: counted } = await sql<{ n: number }>`SELECT count(*) AS n FROM payer p WHERE ${wanted}`.execute(db);
  return { rows: rows.slice(0, PAYERS_SHOWN), count: counted[0]!.n, more: rows.length > PAYERS_SHOWN };
}
