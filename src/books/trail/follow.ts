import { sql } from 'kysely';
import type { Reading } from '../store';
import type { TrailKind } from './ref';

/** Ids of everything that hangs together, station by station. */
export interface TrailIds {
  invoices: number[];
  receipts: number[];
  payouts: number[];
  lines: number[];
}

export const inList = (ids: readonly number[]) => sql`(SELECT value FROM json_each(${JSON.stringify(ids)}))`;

async function ids(db: Reading, query: ReturnType<typeof sql>): Promise<number[]> {
  const { rows } = await sql<{ id: number }>`SELECT DISTINCT id FROM (${query}) ORDER BY id`.execute(db);
  return rows.map((row) => row.id);
}

const linesOfPayouts = (payouts: readonly number[]) => sql`
  SELECT m.statement_line_id AS id FROM payout p JOIN match_line m ON m.match_id = p.match_id AND m.live = 1
  WHERE p.id IN ${inList(payouts)}`;

const linesOfReceipts = (receipts: readonly number[]) => sql`
  SELECT m.statement_line_id AS id FROM receipt r JOIN match_line m ON m.match_id = r.match_id AND m.live = 1
  WHERE r.id IN ${inList(receipts)}`;

const linesOfInvoices = (invoices: readonly number[]) => sql`
  SELECT l.statement_line_id AS id FROM match_part p JOIN match_line l ON l.match_id = p.match_id AND l.live = 1
  WHERE p.kind = 'invoice' AND p.live = 1 AND p.ref_id IN ${inList(invoices)}`;

const payoutsOfReceipts = (receipts: readonly number[]) => sql`
  SELECT payout_id AS id FROM receipt WHERE id IN ${inList(receipts)} AND payout_id IS NOT NULL`;

/** What was kept of receipts and put to invoices later: the two by the settlement that did it. */
const SETTLED = sql`credit_entry c JOIN journal j ON j.id = c.journal_id AND j.source_kind = 'settlement'
  JOIN invoice_entry e ON e.journal_id = j.id`;

const receiptsOfInvoices = (invoices: readonly number[]) => sql`
  SELECT id FROM receipt WHERE invoice_id IN ${inList(invoices)} UNION
  SELECT c.receipt_id FROM ${SETTLED} WHERE e.invoice_id IN ${inList(invoices)} AND c.receipt_id IS NOT NULL`;

const invoicesOfReceipts = (receipts: readonly number[]) => sql`
  SELECT invoice_id AS id FROM receipt WHERE id IN ${inList(receipts)} AND invoice_id IS NOT NULL UNION
  SELECT e.invoice_id FROM ${SETTLED} WHERE c.receipt_id IN ${inList(receipts)}`;

const receiptsOfPayouts = (payouts: readonly number[]) => sql`
  SELECT id FROM receipt WHERE payout_id IN ${inList(payouts)}`;

const partsOf = (kind: string, lines: readonly number[]) => sql`
  SELECT p.ref_id AS id FROM match_line l JOIN match_part p ON p.match_id = l.match_id AND p.live = 1
  WHERE l.live = 1 AND p.kind = ${kind} AND l.statement_line_id IN ${inList(lines)}`;

/** Follows the money from one end: everything that hangs together with the place where the trail is entered. */
export async function follow(db: Reading, kind: Exclude<TrailKind, 'journal'>, id: number): Promise<TrailIds> {
  switch (kind) {
    case 'invoice': {
      const receipts = await ids(db, receiptsOfInvoices([id]));
      const payouts = await ids(db, payoutsOfReceipts(receipts));
      const lines = await ids(
        db,
        sql`${linesOfPayouts(payouts)} UNION ${linesOfReceipts(receipts)} UNION ${linesOfInvoices([id])}`,
      );
      return { invoices: [id], receipts, payouts, lines };
    }
    case 'receipt': {
      const payouts = await ids(db, payoutsOfReceipts([id]));
      return {
        invoices: await ids(db, invoicesOfReceipts([id])),
        receipts: [id],
        payouts,
        lines: await ids(db, sql`${linesOfPayouts(payouts)} UNION ${linesOfReceipts([id])}`),
      };
    }
    case 'payout': {
      const receipts = await ids(db, receiptsOfPayouts([id]));
      return {
        invoices: await ids(db, invoicesOfReceipts(receipts)),
        receipts,
        payouts: [id],
        lines: await ids(db, linesOfPayouts([id])),
      };
    }
    case 'line': {
      const payouts = await ids(db, partsOf('payout', [id]));
      const receipts = await ids(db, sql`${receiptsOfPayouts(payouts)} UNION ${partsOf('receipt', [id])}`);
      return {
        invoices: await ids(db, sql`${invoicesOfReceipts(receipts)} UNION ${partsOf('invoice', [id])}`),
        receipts,
        payouts,
        lines: [id],
      };
    }
  }
}
