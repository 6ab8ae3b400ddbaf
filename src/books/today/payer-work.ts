import { sql } from 'kysely';
import type { Minor } from '@/core/money';
import { plural } from '@/core/words';
import type { Reading } from '../store';
import type { WorkItem } from './worklist';

/** Names that came with another payer's email. */
export async function samePayers(db: Reading): Promise<WorkItem[]> {
  const { rows } = await sql<{ names: number; receipts: number; amount: Minor; first: string }>`
    SELECT count(DISTINCT payer_said) AS names, count(*) AS receipts, coalesce(sum(gross), 0) AS amount,
      min(payer_said) AS first
    FROM receipt WHERE payer_said IS NOT NULL
  `.execute(db);
  const { names, receipts, amount, first } = rows[0]!;
  if (receipts === 0) return [];
  return [
    {
      risk: 'waiting',
      title: `${plural(names, 'name')} came with another payer’s email: one payer or two?`,
      detail: `${first}${names > 1 ? ` and ${names - 1} more` : ''}, ${plural(receipts, 'receipt')}`,
      amount,
      age: null,
      action: 'Say who',
      href: 'owed/payers',
    },
  ];
}

/** Money for invoices that were paid already, or more than was open: what is over is the payer's credit. */
export async function overPaid(db: Reading): Promise<WorkItem[]> {
  const { rows } = await sql<{ posted: number; amount: Minor; waiting: number; gross: Minor; names: string | null }>`
    WITH over AS (
      SELECT r.document, -l.base_amount AS amount FROM account a
      JOIN journal_line l ON l.account_id = a.id AND l.base_amount < 0
      JOIN receipt r ON r.journal_id = l.journal_id AND r.invoice_id IS NOT NULL
      WHERE a.role = 'payer_credit'
    ), twice AS (
      SELECT r.document, r.gross AS amount FROM receipt r INDEXED BY receipt_not_posted
      JOIN invoice v ON v.id = r.invoice_id AND v.paid >= v.gross AND v.journal_id IS NOT NULL
      WHERE r.journal_id IS NULL AND r.aside IS NULL AND r.kind = 'receipt'
    )
    SELECT (SELECT count(*) FROM over) AS posted, (SELECT coalesce(sum(amount), 0) FROM over) AS amount,
      (SELECT count(*) FROM twice) AS waiting, (SELECT coalesce(sum(amount), 0) FROM twice) AS gross,
      (SELECT group_concat(document, ', ') FROM (SELECT document FROM over UNION SELECT document FROM twice)) AS names
  `.execute(db);
  const { posted, amount, waiting, gross, names } = rows[0]!;
  if (posted + waiting === 0) return [];
  return [
    {
      risk: 'trouble',
      title: `${plural(posted + waiting, 'receipt pays', 'receipts pay')} more than was open of an invoice`,
      detail: `${(names ?? '').slice(0, 80)}; what is over ${waiting > 0 && posted === 0 ? 'will be' : 'is'} the payer’s credit`,
      amount: (amount + gross) as Minor,
      age: null,
      action: 'Look at it',
      href: `collected?text=${encodeURIComponent((names ?? '').split(', ')[0]!)}`,
    },
  ];
}
