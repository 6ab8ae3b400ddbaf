import { sql } from 'kysely';
import type { Reading } from '../store';
import { STAGED_SHAPE } from './judge';
import { loadReceipts } from './load-receipts';
import { ReceiptPlanner } from './plan';

/** Writes the new payouts. */
export async function insertPayouts(db: Reading, channel: number, run: number): Promise<void> {
  await sql`
    INSERT INTO payout (channel_id, external_id, reference_key, paid_at, book_date, expected_on, currency, net, run_id)
    SELECT ${channel}, external_id, reference_key, occurred_at, book_date, expected_on, currency, -gross, ${run}
    FROM temp.stage_receipt WHERE action = 'new' AND kind = 'payout' ORDER BY line
  `.execute(db);
}

/** Writes the new receipts, tied to payer, invoice, item and payout. */
export async function insertReceipts(db: Reading, channel: number, run: number): Promise<void> {
  await sql`
    INSERT INTO receipt (channel_id, external_id, kind, occurred_at, book_date, currency, gross, tip, fee, payer_id,
                         document, invoice_id, item_id, note, refund_of, payout_ref, payout_id, run_id,
                         discount, method, site_id, country, region, fund, payer_said)
    SELECT ${channel}, s.external_id, s.kind, s.occurred_at, s.book_date, s.currency, s.gross, s.tip, s.fee,
           coalesce(sp.id, (SELECT payer_id FROM channel WHERE id = ${channel})),
           s.document, v.id, i.id, s.note, s.refund_of, s.payout, p.id, ${run},
           s.discount, s.method, s.site_id, s.country, s.region, s.fund, sp.said
    FROM temp.stage_receipt s
    LEFT JOIN temp.stage_payer sp ON sp.email = s.email AND sp.payer = s.payer AND sp.ref = s.payer_ref
    LEFT JOIN item i ON i.code = s.item
    LEFT JOIN invoice v ON v.number = s.document AND s.document <> ''
    LEFT JOIN payout p ON p.channel_id = ${channel} AND p.external_id = s.payout
    WHERE s.action = 'new' AND s.kind <> 'payout' ORDER BY s.line
  `.execute(db);
  await insertShapes(db, channel);
}

/**
 * Writes lines and tenders of the new receipts that have several; each is looked up once, not once a line. They are gone
 * through in the order of the file, in which receipts got their ids, so nothing has to be sorted.
 */
async function insertShapes(db: Reading, channel: number): Promise<void> {
  await sql`DROP TABLE IF EXISTS temp.stage_shaped`.execute(db);
  await sql`CREATE TEMP TABLE stage_shaped (line INTEGER PRIMARY KEY, id INTEGER NOT NULL)`.execute(db);
  await sql`
    INSERT INTO temp.stage_shaped SELECT s.line, r.id FROM temp.stage_receipt s
    JOIN receipt r ON r.channel_id = ${channel} AND r.external_id = s.external_id
    WHERE s.action = 'new' AND s.kind <> 'payout'
      AND (EXISTS (SELECT 1 FROM temp.stage_line l WHERE l.line = s.line)
        OR EXISTS (SELECT 1 FROM temp.stage_tender t WHERE t.line = s.line))
  `.execute(db);
  await sql`
    INSERT INTO receipt_line (receipt_id, line_no, item_id, description, units, gross, discount, tax)
    SELECT made.id, l.line_no, i.id, l.description, l.units, l.gross, l.discount, l.tax
    FROM temp.stage_shaped made CROSS JOIN temp.stage_line l ON l.line = made.line
    LEFT JOIN item i ON i.code = l.item AND l.item <> ''
  `.execute(db);
  await sql`
    INSERT INTO receipt_tender (receipt_id, tender, amount)
    SELECT made.id, t.tender, t.amount FROM temp.stage_shaped made CROSS JOIN temp.stage_tender t ON t.line = made.line
  `.execute(db);
}

/** Keeps what the source says now of receipts that are here with other figures. */
export async function keepChanges(db: Reading, run: number): Promise<void> {
  await sql`
    INSERT INTO receipt_change (receipt_id, run_id, kind, gross, tip, fee, occurred_at, book_date, shape)
    SELECT known_id, ${run}, kind, gross, tip, fee, occurred_at, book_date,
      CASE WHEN line IN (SELECT line FROM temp.stage_line) THEN ${STAGED_SHAPE} END
    FROM temp.stage_receipt
    WHERE action = 'changed' ORDER BY line
    ON CONFLICT (receipt_id) DO UPDATE SET run_id = excluded.run_id, kind = excluded.kind, gross = excluded.gross,
      tip = excluded.tip, fee = excluded.fee, occurred_at = excluded.occurred_at, book_date = excluded.book_date,
      shape = excluded.shape
  `.execute(db);
}

/** Ties receipts to payouts that came later than they, or that the file now names. */
export async function linkPayouts(db: Reading, channel: number, run: number): Promise<void> {
  await sql`
    UPDATE receipt SET payout_ref = s.payout, payout_run_id = ${run},
      payout_id = (SELECT p.id FROM payout p WHERE p.channel_id = ${channel} AND p.external_id = s.payout)
    FROM temp.stage_receipt AS s
    WHERE receipt.id = s.known_id
      AND (s.action = 'updated' OR (s.action = 'changed' AND s.payout <> '' AND receipt.payout_ref = ''))
  `.execute(db);
  await sql`
    UPDATE receipt SET payout_id = p.id FROM payout AS p
    WHERE p.run_id = ${run} AND p.channel_id = ${channel} AND receipt.channel_id = ${channel}
      AND receipt.payout_ref = p.external_id AND receipt.payout_id IS NULL AND receipt.payout_ref <> ''
  `.execute(db);
}

/**
 * Decides of receipts that were paid in several ways what their channel's clearing account will not hold: a payout that
 * carries a till's day carries its cards, not its cash.
 */
export async function decideHeld(db: Reading, run: number): Promise<void> {
  const { rows } = await sql<{ id: number }>`
    SELECT DISTINCT r.id FROM receipt r JOIN receipt_tender t ON t.receipt_id = r.id WHERE r.run_id = ${run} ORDER BY r.id
  `.execute(db);
  if (rows.length === 0) return;
  const planner = await ReceiptPlanner.open(db);
  for (let at = 0; at < rows.length; at += HELD_BATCH) {
    const ids = rows.slice(at, at + HELD_BATCH).map(({ id }) => id);
    const held = JSON.stringify(planner.notHeldOf(await loadReceipts(db, ids, 'tenders')));
    await sql`
      UPDATE receipt SET not_held = t.not_held
      FROM (SELECT value ->> 'id' AS id, value ->> 'notHeld' AS not_held FROM json_each(${held})) AS t
      WHERE receipt.id = t.id
    `.execute(db);
  }
}

const HELD_BATCH = 2_000;

/** Adds the receipts of these payouts up again. */
export async function totalPayouts(db: Reading, payouts: ReturnType<typeof sql>): Promise<void> {
  await sql`
    UPDATE payout SET receipt_count = t.n, receipt_gross = t.gross, receipt_fee = t.fee, unstated = t.unstated
    FROM (
      SELECT x.id, count(r.id) AS n, coalesce(sum(r.gross - r.not_held), 0) AS gross, coalesce(sum(r.fee), 0) AS fee,
             coalesce(sum(r.id IS NOT NULL AND r.fee IS NULL), 0) AS unstated
      FROM (${payouts}) AS x LEFT JOIN receipt r ON r.payout_id = x.id GROUP BY x.id
    ) AS t WHERE payout.id = t.id
  `.execute(db);
}
