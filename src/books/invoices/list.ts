import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { invoiceState, type InvoiceState } from '@/core/receivables';
import { cut, PAGE_SIZE, type Cursor, type Page } from '../lists/page';
import type { Reading } from '../store';
import { filterInvoices, type InvoiceFilter } from './filter';

export interface InvoiceListRow {
  readonly id: number;
  readonly number: string;
  readonly payer: string;
  readonly date: PlainDate;
  readonly due: PlainDate;
  /** Minor units. */
  readonly gross: Minor;
  readonly open: Minor;
  readonly journal: number | null;
  readonly state: InvoiceState;
}

export interface InvoiceTotals {
  readonly count: number;
  readonly gross: Minor;
  readonly open: Minor;
}

function base(db: Reading, filter: InvoiceFilter, today: PlainDate) {
  return filterInvoices(db.selectFrom('invoice').innerJoin('payer', 'payer.id', 'invoice.payer_id'), filter, today);
}

/** Rows of the list after a cursor, newest first. */
export async function invoiceRows(
  db: Reading,
  filter: InvoiceFilter,
  today: PlainDate,
  after: Cursor | null,
  limit: number,
): Promise<InvoiceListRow[]> {
  let query = base(db, filter, today);
  if (after) query = query.where(sql<boolean>`(invoice.issued, invoice.id) < (${after.date}, ${after.id})`);
  const rows = await query
    .select([
      'invoice.id',
      'invoice.number',
      'payer.name as payer',
      'invoice.issued as date',
      'invoice.due',
      'invoice.gross',
      'invoice.paid',
      'invoice.credited',
      'invoice.journal_id as journal',
    ])
    .orderBy('invoice.issued', 'desc')
    .orderBy('invoice.id', 'desc')
    .limit(limit)
    .execute();
  return rows.map(({ paid, credited, ...row }) => ({
    ...row,
    open: (row.gross - paid) as Minor,
    state: invoiceState({ posted: row.journal !== null, gross: row.gross, paid, credited, due: row.due }, today),
  }));
}

/** One page of invoices, newest first, with the totals of the filter. */
export async function listInvoices(
  db: Reading,
  filter: InvoiceFilter,
  today: PlainDate,
  after: Cursor | null,
): Promise<Page<InvoiceListRow, InvoiceTotals>> {
  const rows = await invoiceRows(db, filter, today, after, PAGE_SIZE + 1);
  const query = filter.text
    ? base(db, filter, today)
    : filterInvoices(db.selectFrom('invoice') as unknown as ReturnType<typeof base>, filter, today);
  const totals = await query
    .select((e) => [
      e.fn.countAll<number>().as('count'),
      e.fn.coalesce(e.fn.sum<Minor>('invoice.gross'), sql<Minor>`0`).as('gross'),
      sql<Minor>`coalesce(sum(invoice.gross - invoice.paid), 0)`.as('open'),
    ])
    .executeTakeFirstOrThrow();
  return { ...cut(rows), totals };
}
