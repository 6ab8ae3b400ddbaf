import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { subtract, type Currency, type Minor } from '@/core/money';
import type { Reading } from '../store';

/** Days of a bank account that no statement tells: where one ends with another balance than the next begins with. */
export interface StatementGap {
  /** Code and name of the bank's account in the ledger. */
  readonly account: string;
  readonly currency: Currency;
  readonly after: { readonly day: PlainDate; readonly closing: Minor; readonly file: string };
  readonly before: { readonly day: PlainDate; readonly opening: Minor; readonly file: string };
  /** What moved between them and is in no file, minor units. */
  readonly missing: Minor;
}

interface Row {
  readonly id: number;
  readonly accountId: number;
  readonly account: string;
  readonly currency: Currency;
  readonly opening: Minor | null;
  readonly closing: Minor | null;
  readonly from: PlainDate;
  readonly to: PlainDate;
  readonly file: string;
}

/**
 * Gaps between the statements of each account, newest last. Statements may overlap: what counts is the latest day that any of
 * them reached. A format that tells no balances opens no gap and closes none.
 */
export async function statementGaps(db: Reading): Promise<StatementGap[]> {
  const { rows } = await sql<Row>`
    SELECT s.id, s.account_id AS accountId, a.code || ' ' || a.name AS account, b.currency, s.opening, s.closing,
      s.first_day AS "from", s.last_day AS "to", r.file_name AS file
    FROM statement s JOIN account a ON a.id = s.account_id JOIN bank_account b ON b.account_id = s.account_id
    JOIN run r ON r.id = s.run_id
    WHERE s.first_day IS NOT NULL AND s.opening IS NOT NULL AND s.closing IS NOT NULL
    ORDER BY s.account_id, s.first_day, s.last_day, s.id
  `.execute(db);
  const gaps: StatementGap[] = [];
  let reached: Row | null = null;
  for (const row of rows) {
    if (reached === null || reached.accountId !== row.accountId) {
      reached = row;
      continue;
    }
    if (row.from > reached.to && row.opening !== reached.closing) {
      gaps.push({
        account: row.account,
        currency: row.currency,
        after: { day: reached.to, closing: reached.closing!, file: reached.file },
        before: { day: row.from, opening: row.opening!, file: row.file },
        missing: subtract(row.opening!, reached.closing!),
      });
    }
    if (row.to >= reached.to) reached = row;
  }
  return gaps;
}
