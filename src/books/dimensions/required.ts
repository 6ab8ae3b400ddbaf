import { sql } from 'kysely';
import type { AccountId, Dimensions } from '@/core/ledger';
import type { Reading } from '../store';

/** The first line whose account asks for a dimension that it does not say; null where there is none. */
export async function requiredDimensions(
  db: Reading,
  lines: readonly { readonly income: AccountId; readonly dimensions: Dimensions }[],
): Promise<{ readonly line: number; readonly dimension: string; readonly account: string } | null> {
  const { rows } = await sql<{ account: AccountId; dimension: number; name: string; accountName: string }>`
    SELECT r.account_id AS account, r.dimension_id AS dimension, d.name, a.code || ' ' || a.name AS accountName
    FROM account_dimension r JOIN dimension d ON d.id = r.dimension_id JOIN account a ON a.id = r.account_id
  `.execute(db);
  for (const [index, { income, dimensions }] of lines.entries()) {
    const said = new Set(dimensions.map(([dimension]) => dimension));
    const lacking = rows.find((row) => row.account === income && !said.has(row.dimension));
    if (lacking) return { line: index + 1, dimension: lacking.name, account: lacking.accountName };
  }
  return null;
}
