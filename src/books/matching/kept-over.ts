import { sql } from 'kysely';
import type { AccountId } from '@/core/ledger';
import type { Reading } from '../store';

/** The account of what is kept for payers. */
export async function payerCreditAccount(db: Reading): Promise<AccountId> {
  const row = await db.selectFrom('account').select('id').where('role', '=', 'payer_credit').executeTakeFirstOrThrow();
  return row.id;
}

/** A deposit among these matches of which something was kept and is used already: it cannot be taken apart. */
export async function usedCredit(db: Reading, matches: readonly number[]): Promise<string | null> {
  const { rows } = await sql<{ name: string }>`
    SELECT 'Deposit of ' || l.book_date AS name FROM match m JOIN match_line x ON x.match_id = m.id AND x.place = 1
    JOIN statement_line l ON l.id = x.statement_line_id
    JOIN credit_entry kept ON kept.journal_id = m.journal_id AND kept.statement_line_id = l.id
    WHERE m.id IN (SELECT value FROM json_each(${JSON.stringify(matches)}))
      AND (SELECT sum(amount) FROM credit_entry c WHERE c.statement_line_id = l.id) < kept.amount LIMIT 1
  `.execute(db);
  return rows[0]?.name ?? null;
}
