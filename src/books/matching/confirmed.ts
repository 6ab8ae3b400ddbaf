import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { reasonWords, type Reason } from '@/core/matching';
import type { Currency, Minor } from '@/core/money';
import { doubledSheet, type DoubledSheet } from '../doubled/list';
import { postedJournal, type PostedJournal } from '../ledger/entry-view';
import type { Reading } from '../store';
import { AccountShelf } from './account-parts';
import { linePart, lineRows } from './line-parts';
import { partInput, type AccountPartInput } from './part-input';
import { channelBookings, receivableOf } from './channel-bookings';
import { PAYOUT_COLUMNS, type InvoiceRow, type PayoutRow, type ReceiptRow } from './part-rows';
import { accountPart, invoicePart, payoutPart, receiptPart, type SheetPart } from './parts';

export interface ConfirmedSheet {
  readonly match: number;
  readonly at: string;
  readonly actor: string;
  readonly certainty: string;
  readonly because: readonly string[];
  readonly rest: Minor;
  readonly restAccount: string | null;
  readonly journal: PostedJournal;
  /** What explains the line beside what it is booked to: the money may count twice. */
  readonly doubled: DoubledSheet | null;
}

async function payoutsOf(db: Reading, ids: readonly number[]): Promise<SheetPart[]> {
  if (ids.length === 0) return [];
  const channels = await channelBookings(db);
  const { rows } = await sql<PayoutRow>`
    SELECT ${PAYOUT_COLUMNS} FROM payout p WHERE p.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  const byId = new Map(rows.map((row) => [row.id, payoutPart(row, channels)]));
  return ids.flatMap((id) => byId.get(id) ?? []);
}

/**
 * What a match is made of, seen from one of its lines: from another than that of its sheet, this line and that one change
 * places.
 */
export async function confirmedParts(
  db: Reading,
  match: number,
  { id, date }: { readonly id: number; readonly date: PlainDate },
): Promise<SheetPart[]> {
  const channels = await channelBookings(db);
  const receivable = await receivableOf(db);
  const parts = await db
    .selectFrom('match_part')
    .selectAll()
    .where('match_id', '=', match)
    .orderBy('part_no')
    .execute();
  const idsOf = (kind: string) => parts.filter((part) => part.kind === kind).map((part) => part.ref_id);
  const payouts = await payoutsOf(db, idsOf('payout'));
  const receipts = await receiptRowsById(db, idsOf('receipt'));
  const invoices = await invoiceRowsById(db, idsOf('invoice'));
  const first = await db
    .selectFrom('match_line')
    .select('statement_line_id as id')
    .where('match_id', '=', match)
    .where('place', '=', 1)
    .executeTakeFirstOrThrow();
  const lines = await lineRows(db, [first.id, ...idsOf('line')]);
  const accounts = await AccountShelf.of(
    db,
    parts.some(({ kind }) => kind === 'account') ? [{ kind: 'account' } as AccountPartInput] : [],
  );
  return parts.flatMap((part) => {
    switch (part.kind) {
      case 'payout':
        return payouts.find((p) => p.id === part.ref_id) ?? [];
      case 'receipt': {
        const row = receipts.find((r) => r.id === part.ref_id);
        // The fee as it was confirmed, whatever the schedule says today.
        return row ? { ...receiptPart(row, channels), fee: part.fee, net: (part.gross - part.fee) as Minor } : [];
      }
      case 'account': {
        const input = partInput.parse({
          ...(JSON.parse(part.detail) as object),
          kind: 'account',
          id: part.ref_id,
          amount: part.gross,
        }) as AccountPartInput;
        const row = accounts.row(input);
        return 'code' in row ? [] : accountPart(input, row, date);
      }
      case 'line': {
        const row = lines.find((one) => one.id === (part.ref_id === id ? first.id : part.ref_id));
        return row ? linePart(row, date, null) : [];
      }
      case 'invoice': {
        const row = invoices.find((i) => i.id === part.ref_id);
        return row ? invoicePart(row, part.gross, receivable) : [];
      }
    }
  });
}

async function receiptRowsById(db: Reading, ids: readonly number[]): Promise<ReceiptRow[]> {
  if (ids.length === 0) return [];
  const { rows } = await sql<ReceiptRow>`
    SELECT r.*, y.name AS payer FROM receipt r LEFT JOIN payer y ON y.id = r.payer_id
    WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  return rows;
}

async function invoiceRowsById(db: Reading, ids: readonly number[]): Promise<InvoiceRow[]> {
  if (ids.length === 0) return [];
  const { rows } = await sql<InvoiceRow>`
    SELECT i.id, i.number, i.issued, y.id AS payerId, y.name AS payer, i.gross - i.paid AS open
    FROM invoice i JOIN payer y ON y.id = i.payer_id
    WHERE i.id IN (SELECT value FROM json_each(${JSON.stringify(ids)}))
  `.execute(db);
  return rows;
}

/** The match as a sheet shows it: with the entry that this line is in. */
export async function confirmedSheet(
  db: Reading,
  match: number,
  line: { readonly id: number; readonly book_date: PlainDate; readonly currency: Currency },
): Promise<ConfirmedSheet> {
  const { id, currency } = line;
  const row = await db
    .selectFrom('match')
    .leftJoin('account', 'account.id', 'match.rest_account_id')
    .innerJoin('match_line', (join) =>
      join.onRef('match_line.match_id', '=', 'match.id').on('statement_line_id', '=', id),
    )
    .selectAll('match')
    .select('match_line.journal_id as own_journal')
    .select(['account.code', 'account.name'])
    .where('match.id', '=', match)
    .executeTakeFirstOrThrow();
  return {
    match,
    at: row.confirmed_at,
    actor: row.actor,
    certainty: row.certainty,
    because: (JSON.parse(row.reasons) as Reason[]).map((reason) => reasonWords(reason, currency)),
    rest: row.rest,
    restAccount: row.code === null ? null : `${row.code} ${row.name}`,
    journal: (await postedJournal(db, row.own_journal ?? row.journal_id))!,
    doubled: await doubledSheet(db, line),
  };
}
