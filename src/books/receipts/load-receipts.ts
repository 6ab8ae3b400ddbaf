import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Currency, Minor } from '@/core/money';
import type { MappedReceipt } from '../map/load-map';
import type { Reading, ReceiptKind } from '../store';

/** One thing a receipt was for, where there are several. Amounts in minor units. */
export interface LoadedLine {
  readonly item: number | null;
  readonly itemCode: string | null;
  readonly text: string;
  /** Thousandths. */
  readonly units: number;
  /** What was paid for it, tax included. */
  readonly gross: Minor;
  readonly discount: Minor;
  /** The source's own figure; null where it says none. */
  readonly tax: Minor | null;
}

export interface LoadedTender {
  readonly tender: string;
  readonly amount: Minor;
}

/** One receipt looked up with all that decides its entry. */
export interface LoadedReceipt extends MappedReceipt {
  readonly id: number;
  readonly external_id: string;
  readonly kind: ReceiptKind;
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
  /** What of gross clearing does not hold, as it was last decided. */
  readonly not_held: Minor;
  readonly invoice_id: number | null;
  readonly invoice_gross: Minor | null;
  readonly invoice_paid: Minor | null;
  readonly invoice_journal: number | null;
  /** The rate that its invoice allows for paying early; null or 0 where none is. */
  readonly invoice_discount: number | null;
  /** Set where it is for several things. */
  readonly lines?: readonly LoadedLine[];
  /** Set where it was paid in several ways. */
  readonly tenders?: readonly LoadedTender[];
}

/** What the map and the recipes need of receipts; FROM says which, as `wanted` with the id in `value`. */
export const LOADED_COLUMNS = sql`
  r.id, r.external_id, r.kind, r.book_date, r.gross, r.tip, r.fee, r.discount, r.currency, r.document, r.refund_of,
  r.revision, r.channel_id AS channel, r.site_id AS site, r.payer_id AS payer, p.name AS payerName, r.item_id AS item,
  i.code AS itemCode, coalesce(i.name || ' ', '') || r.note AS text, r.method, r.country, r.region, r.fund, r.landing,
  r.journal_id AS journal, r.not_held, v.id AS invoice_id, v.gross AS invoice_gross, v.paid AS invoice_paid,
  v.journal_id AS invoice_journal, v.discount_rate AS invoice_discount`;

/** Receipts by id that are not posted nor set aside, in the order given; with their lines only where those are asked for. */
export async function loadReceipts(
  db: Reading,
  ids: readonly number[],
  shapes: 'all' | 'tenders' = 'all',
): Promise<LoadedReceipt[]> {
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
  const byId = new Map((await withShapes(db, rows, shapes)).map((row) => [row.id, row]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/** Adds lines and tenders to the receipts that have several; most have none, and stay as they are. */
export async function withShapes(
  db: Reading,
  receipts: readonly LoadedReceipt[],
  shapes: 'all' | 'tenders' = 'all',
): Promise<readonly LoadedReceipt[]> {
  const ids = JSON.stringify(receipts.map(({ id }) => id));
  const lines = await (shapes === 'tenders'
    ? { rows: [] }
    : sql<LoadedLine & { receipt: number }>`
    SELECT l.receipt_id AS receipt, l.item_id AS item, i.code AS itemCode,
      trim(coalesce(i.name || ' ', '') || l.description) AS text, l.units, l.gross, l.discount, l.tax
    FROM receipt_line l LEFT JOIN item i ON i.id = l.item_id
    WHERE l.receipt_id IN (SELECT value FROM json_each(${ids})) ORDER BY l.receipt_id, l.line_no
  `.execute(db));
  const tenders = await sql<LoadedTender & { receipt: number }>`
    SELECT receipt_id AS receipt, tender, amount FROM receipt_tender
    WHERE receipt_id IN (SELECT value FROM json_each(${ids})) ORDER BY receipt_id, tender
  `.execute(db);
  if (lines.rows.length + tenders.rows.length === 0) return receipts;
  const linesOf = grouped(lines.rows);
  const tendersOf = grouped(tenders.rows);
  return receipts.map((receipt) => {
    const own = { lines: linesOf.get(receipt.id), tenders: tendersOf.get(receipt.id) };
    return own.lines || own.tenders
      ? { ...receipt, ...(own.lines && { lines: own.lines }), ...(own.tenders && { tenders: own.tenders }) }
      : receipt;
  });
}

function grouped<T extends { readonly receipt: number }>(rows: readonly T[]): Map<number, T[]> {
  const groups = new Map<number, T[]>();
  for (const row of rows) {
    const group = groups.get(row.receipt);
    if (group) group.push(row);
    else groups.set(row.receipt, [row]);
  }
  return groups;
}

/** What the map is asked of a receipt: itself, or each thing it is for where there are several. */
export function mapSubjects(receipt: LoadedReceipt): readonly LoadedReceipt[] {
  return receipt.lines
    ? receipt.lines.map(({ item, itemCode, text, gross, discount }) => ({
        ...receipt,
        item,
        itemCode,
        text,
        gross,
        discount,
      }))
    : [receipt];
}
