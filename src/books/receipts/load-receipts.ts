import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Currency, Minor } from '@/core/money';
import type { MappedReceipt } from '../map/load-map';
import { readPacked, type Reading, type ReceiptKind } from '../store';

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

/** Where each thing that the map and the recipes need of a receipt stands: in it, its payer p, its item i or its invoice v. */
const LOADED = {
  id: 'r.id',
  external_id: 'r.external_id',
  kind: 'r.kind',
  book_date: 'r.book_date',
  revision: 'r.revision',
  gross: 'r.gross',
  tip: 'r.tip',
  fee: 'r.fee',
  discount: 'r.discount',
  currency: 'r.currency',
  document: 'r.document',
  refund_of: 'r.refund_of',
  channel: 'r.channel_id',
  site: 'r.site_id',
  payer: 'r.payer_id',
  payerName: 'p.name',
  item: 'r.item_id',
  itemCode: 'i.code',
  text: "coalesce(i.name || ' ', '') || r.note",
  method: 'r.method',
  country: 'r.country',
  region: 'r.region',
  fund: 'r.fund',
  landing: 'r.landing',
  journal: 'r.journal_id',
  not_held: 'r.not_held',
  invoice_id: 'v.id',
  invoice_gross: 'v.gross',
  invoice_paid: 'v.paid',
  invoice_journal: 'v.journal_id',
  invoice_discount: 'v.discount_rate',
} satisfies Record<Exclude<keyof LoadedReceipt, 'lines' | 'tenders'>, string>;

const LOADED_NAMES = Object.keys(LOADED) as (keyof typeof LOADED)[];
/** What the map and the recipes need of receipts r, with payer p, item i and invoice v beside them. */
export const LOADED_COLUMNS = sql.raw(LOADED_NAMES.map((name) => `${LOADED[name]} AS ${name}`).join(', '));

/** Receipts by id that are not posted nor set aside, in the order given; with their lines only where those are asked for. */
export async function loadReceipts(
  db: Reading,
  ids: readonly number[],
  shapes: 'all' | 'tenders' = 'all',
): Promise<LoadedReceipt[]> {
  const rows = await readPacked(
    db,
    LOADED_NAMES,
    sql<LoadedReceipt>`
    SELECT ${LOADED_COLUMNS}
    FROM json_each(${JSON.stringify(ids)}) AS wanted
    JOIN receipt r ON r.id = wanted.value
    LEFT JOIN payer p ON p.id = r.payer_id
    LEFT JOIN item i ON i.id = r.item_id
    LEFT JOIN invoice v ON v.id = r.invoice_id
    WHERE r.journal_id IS NULL AND r.aside IS NULL
  `,
  );
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
