import { sql } from 'kysely';
import { addDays, type PlainDate } from '@/core/calendar';
import type { MapField } from '@/core/map';
import { Cancelled, type Progress } from '../command';
import { LOADED_COLUMNS, withShapes, type LoadedReceipt } from '../receipts/load-receipts';
import type { Reading } from '../store';

/** How far back the map is looked at: twelve months. */
export const PAST_DAYS = 365;
const BATCH = 5_000;

/** Where the twelve months begin that end today. */
export function pastFrom(today: PlainDate): PlainDate {
  return addDays(today, -PAST_DAYS);
}

/** The receipts from a day on that are not set aside, oldest first, a batch at a time: however many there are, a batch is held. */
export async function* pastReceipts(
  db: Reading,
  from: PlainDate,
  progress: Progress,
): AsyncGenerator<readonly LoadedReceipt[]> {
  const { n } = (await sql<{ n: number }>`SELECT count(*) AS n FROM receipt WHERE book_date >= ${from}`.execute(db))
    .rows[0]!;
  let looked = 0;
  for (let after = { date: from as string, id: 0 }; ;) {
    const { rows } = await sql<LoadedReceipt & { aside: string | null }>`
      SELECT ${LOADED_COLUMNS}, r.aside
      FROM receipt r
      LEFT JOIN payer p ON p.id = r.payer_id
      LEFT JOIN item i ON i.id = r.item_id
      LEFT JOIN invoice v ON v.id = r.invoice_id
      WHERE (r.book_date, r.id) > (${after.date}, ${after.id})
      ORDER BY r.book_date, r.id LIMIT ${BATCH}
    `.execute(db);
    const last = rows.at(-1);
    if (!last) return;
    after = { date: last.book_date, id: last.id };
    looked += rows.length;
    yield await withShapes(
      db,
      rows.filter((row) => row.aside === null),
    );
    progress.report('Looking through receipts', looked, n);
    if (progress.cancelled) throw new Cancelled();
  }
}

/** Which decisions the map makes for a receipt: one on an invoice earns nothing itself, so only where it lies and its fee. */
export function asks(receipt: Pick<LoadedReceipt, 'document' | 'kind'>, field: MapField): boolean {
  if (field === 'deposit' || field === 'fees') return true;
  if (receipt.kind === 'chargeback') return false;
  if (receipt.kind === 'refund') return field !== 'income';
  return receipt.document === '';
}
