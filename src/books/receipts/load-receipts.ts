import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Currency, Minor } from '@/core/money';
import type { MappedReceipt } from '../map/load-map';
import type { Reading } from '../store';

/** One receipt looked up with all that decides its entry. */
export interface LoadedReceipt extends MappedReceipt {
  readonly id: number;
  readonly external_id: string;
  readonly kind: 'receipt' | 'refund';
  readonly book_date: PlainDate;
  readonly gross: Minor;
  readonly tip: Minor;
  readonly fee: Minor | null;
  readonly discount: Minor;
  readonly currency: Currency;
  readonly document: string;
  readonly refund_of: string;
  readonly revision: number;
  readonly itemCode: string | null;
  readonly journal: number | null;
  readonly invoice_id: number | null;
  readonly invoice_gross: Minor | null;
  readonly invoice_paid: Minor | null;
  readonly invoice_journal: number | null;
}

/** What the map and the recipes need of receipts; FROM says which, as `wanted` with the id in `value`. */
export const LOADED_COLUMNS = sql`
  r.id, r.external_id, r.kind, r.book_date, r.gross, r.tip, r.fee, r.discount, r.currency, r.document, r.refund_of,
  r.revision, r.channel_id AS channel, r.site_id AS site, r.payer_id AS payer, p.name AS payerName, r.item_id AS item,
  i.code AS itemCode, coalesce(i.name || ' ', '') || r.note AS text, r.method, r.country, r.region, r.fund, r.landing,
  r.journal_id AS journal, v.id AS invoice_id, v.gross AS invoice_gross, v.paid AS invoice_paid,
  v.journal_id AS invoice_journal`;

/** Receipts by id that are not posted nor set aside, in the order given. */
export async function loadReceipts(db: Reading, ids: readonly number[]): Promise<LoadedReceipt[]> {
  const { rows } = await sql<LoadedReceipt>`
    SELECT ${LOADED_COLUMNS}
    FROM json_each(${JSON.stringify(ids)}) AS wanted
    JOIN receipt r ON r.id = wanted.value
    LEFT JOIN payer p ON p.id = r.payer_id
    LEFT JOIN item i ON i.id = r.item_id
    LEFT JOIN invoice v ON v.id = r.invoice_id
    WHERE r.journal_id IS NULL AND r.aside IS NULL
  `.execute(db);
  // Put in order here: SQL would sort whole wide rows for it.
  const byId = new Map(rows.map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}
