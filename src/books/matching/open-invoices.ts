import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { NameFinder, referenceKey, type NamedPayer, type OpenInvoice } from '@/core/matching';
import type { Minor } from '@/core/money';
import { earlyPayments } from '../settling/early';
import type { Reading } from '../store';

/** Invoices that something is open of, and the names under which those who owe them appear. */
export async function openInvoicesAndNames(db: Reading): Promise<{ invoices: OpenInvoice[]; names: NameFinder }> {
  const { rows } = await sql<{ id: number; payer: number; number: string; due: PlainDate; open: Minor; terms: 0 | 1 }>`
    SELECT id, payer_id AS payer, number, due, gross - paid AS open, discount_rate > 0 AS terms
    FROM invoice WHERE journal_id IS NOT NULL AND paid < gross
  `.execute(db);
  const early = await earlyPayments(
    db,
    rows.filter((row) => row.terms === 1).map(({ id }) => id),
  );
  const { rows: payers } = await sql<NamedPayer>`
    WITH owing AS (SELECT DISTINCT payer_id FROM invoice WHERE journal_id IS NOT NULL AND paid < gross)
    SELECT id AS payer, name FROM payer WHERE id IN (SELECT payer_id FROM owing) AND name <> ''
    UNION SELECT payer_id, name FROM payer_alias WHERE payer_id IN (SELECT payer_id FROM owing) AND name <> ''
    ORDER BY 1, 2
  `.execute(db);
  const invoices = rows.map(({ terms: _terms, ...row }) => ({
    ...row,
    key: referenceKey(row.number),
    early: early.get(row.id)?.terms ?? null,
  }));
  return { invoices, names: new NameFinder(payers) };
}
