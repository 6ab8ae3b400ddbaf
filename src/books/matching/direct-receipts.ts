import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import {
  NameFinder,
  proposeDirect,
  referenceKey,
  type DirectReceipt,
  type LineWithText,
  type NamedPayer,
  type Proposal,
} from '@/core/matching';
import type { Minor } from '@/core/money';
import { NO_SCHEDULE } from '../channels/fee-steps';
import type { Reading } from '../store';

interface Row {
  readonly id: number;
  readonly account: AccountId;
  readonly day: PlainDate;
  readonly amount: Minor;
  readonly name: string;
  readonly document: string;
  readonly payer: number | null;
}

/** Deposits that are one receipt each, of which nothing was taken: looked up by their amounts, channel by channel. */
export async function directFor(db: Reading, lines: readonly LineWithText[]): Promise<Map<number, Proposal>> {
  if (lines.length === 0) return new Map();
  const amounts = JSON.stringify([...new Set(lines.map(({ amount }) => amount))]);
  const { rows } = await sql<Row>`
    SELECT r.id, coalesce(s.bank_account_id, c.bank_account_id) AS account, r.book_date AS day, r.gross AS amount,
      r.external_id AS name, r.document, r.payer_id AS payer
    FROM json_each(${amounts}) t CROSS JOIN channel c
    JOIN receipt r INDEXED BY receipt_waiting ON r.channel_id = c.id AND r.gross = t.value AND r.not_held = 0
      AND (r.fee = 0 OR (r.fee IS NULL AND ${NO_SCHEDULE}))
    LEFT JOIN site s ON s.id = r.site_id
    WHERE c.currency = (SELECT currency FROM books) AND r.payout_id IS NULL AND r.match_id IS NULL
      AND r.journal_id IS NOT NULL AND r.not_held <> r.gross AND r.payout_ref = ''
    ORDER BY r.id
  `.execute(db);
  if (rows.length === 0) return new Map();
  const payers = JSON.stringify([...new Set(rows.flatMap(({ payer }) => payer ?? []))]);
  const { rows: names } = await sql<NamedPayer>`
    SELECT id AS payer, name FROM payer WHERE id IN (SELECT value FROM json_each(${payers})) AND name <> ''
    UNION SELECT payer_id, name FROM payer_alias WHERE payer_id IN (SELECT value FROM json_each(${payers})) AND name <> ''
    ORDER BY 1, 2
  `.execute(db);
  const receipts = rows.map(({ document, ...row }): DirectReceipt => ({
    ...row,
    keys: [row.name, document].filter(Boolean).map(referenceKey),
  }));
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  return proposeDirect(lines, receipts, new NameFinder(names), workingCalendar(country));
}
