import { sql, type RawBuilder } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { BasisPoints, Currency, Minor } from '@/core/money';
import { TOTAL_FEE } from '../payouts/total-fee';
import { namesOf } from '../store';

/** A payout as a sheet needs it. */
export interface PayoutRow {
  readonly id: number;
  readonly channel_id: number;
  readonly external_id: string;
  readonly book_date: PlainDate;
  readonly net: Minor;
  readonly receipt_count: number;
  readonly receipt_gross: Minor;
  readonly not_posted: number;
  /** Minor units; the fee that only the payout's totals tell, and what its receipts are booked under. */
  readonly total_fee: Minor;
  readonly over: string | null;
  /** Of a payout in another currency: that currency, and what clearing carries of its receipts in the books' own. */
  readonly foreign_currency: Currency | null;
  readonly carried: Minor | null;
}

/** A receipt as a sheet needs it; a fee of null is worked out. */
export interface ReceiptRow {
  readonly id: number;
  readonly channel_id: number;
  readonly external_id: string;
  readonly book_date: PlainDate;
  readonly gross: Minor;
  readonly fee: Minor | null;
  readonly not_held: Minor;
  readonly payer: string | null;
  readonly document: string;
  readonly note: string;
  readonly fund: string;
  /** What its income was booked under, as JSON; asked for where it is confirmed. */
  readonly dimensions?: string;
}

/** An invoice as a sheet needs it. */
export interface InvoiceRow {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly payer: string;
  readonly payerId: number;
  readonly open: Minor;
}

/** What an account is on a sheet: its name, and what its tax code takes out of an amount. */
export interface AccountRow {
  readonly name: string;
  readonly tax: { readonly account: AccountId; readonly code: string; readonly rate: BasisPoints } | null;
  /** Names of the dimension values, for the note. */
  readonly values: readonly string[];
}

/** What the income of a receipt `r` was booked under, as JSON: a fee known at the bank is shared over it. */
export const RECEIPT_DIMENSIONS = sql`(SELECT json_group_array(json_array(d.dimension_id, d.value_id))
  FROM journal_line l JOIN journal_line_dimension d ON d.journal_id = l.journal_id AND d.line_no = l.line_no
  WHERE l.journal_id = r.journal_id)`;

/** What a payout p is on a sheet; its entry is the same without the count of what is not posted, which is for the note. */
const payoutColumns = (notPosted: RawBuilder<number>) => sql`
  CASE WHEN p.currency <> (SELECT currency FROM books) THEN p.currency END AS foreign_currency,
  CASE WHEN p.currency <> (SELECT currency FROM books)
    THEN (SELECT sum(carried) FROM receipt r WHERE r.payout_id = p.id) END AS carried,
  p.id, p.channel_id, p.external_id, p.book_date, p.net, p.receipt_count, p.receipt_gross,
  ${notPosted} AS not_posted,
  ${TOTAL_FEE} AS total_fee,
  CASE WHEN ${TOTAL_FEE} > 0 THEN (
    SELECT json_group_array(json_object('dimensions', json(dimensions), 'weight', weight)) FROM (
      SELECT dimensions, sum(gross) AS weight FROM (
        SELECT r.gross - r.not_held AS gross, ${RECEIPT_DIMENSIONS} AS dimensions
        FROM receipt r WHERE r.payout_id = p.id)
      GROUP BY dimensions)) END AS over`;

/** What {@link PAYOUT_COLUMNS} and {@link PAYOUT_FOR_ENTRY} give, by name. */
export const PAYOUT_NAMES = namesOf<PayoutRow>({
  id: 1,
  channel_id: 1,
  external_id: 1,
  book_date: 1,
  net: 1,
  receipt_count: 1,
  receipt_gross: 1,
  not_posted: 1,
  total_fee: 1,
  over: 1,
  foreign_currency: 1,
  carried: 1,
});
export const PAYOUT_COLUMNS = payoutColumns(
  sql`(SELECT count(*) FROM receipt r WHERE r.payout_id = p.id AND r.journal_id IS NULL AND r.aside IS NULL)`,
);
export const PAYOUT_FOR_ENTRY = payoutColumns(sql`0`);
