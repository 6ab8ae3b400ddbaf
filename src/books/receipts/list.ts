import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { ZERO, type Currency, type Minor } from '@/core/money';
import { manyCurrencies } from '../currencies/many';
import { cut, PAGE_SIZE, type Cursor, type Page } from '../lists/page';
import type { ChannelKind, Reading, ReceiptKind } from '../store';
import { filterReceipts, type ReceiptFilter } from './filter';

export interface ReceiptListRow {
  readonly id: number;
  readonly name: string;
  readonly kind: ReceiptKind;
  readonly channelKind: ChannelKind;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly document: string;
  readonly fund: string;
  readonly item: string | null;
  readonly note: string;
  /** Minor units, signed: a refund is negative. */
  readonly gross: Minor;
  readonly fee: Minor | null;
  /** What both are in. */
  readonly currency: Currency;
  readonly payout: string;
  readonly journal: number | null;
  readonly banked: 0 | 1;
}

export interface ReceiptTotals {
  readonly count: number;
  /** Of those in the books' own currency. */
  readonly gross: Minor;
  readonly fee: Minor;
  readonly others: readonly { readonly currency: Currency; readonly gross: Minor; readonly fee: Minor }[];
}

function base(db: Reading, filter: ReceiptFilter) {
  return filterReceipts(
    db
      .selectFrom('receipt')
      .leftJoin('payout', 'payout.id', 'receipt.payout_id')
      .leftJoin('payer', 'payer.id', 'receipt.payer_id'),
    filter,
  );
}

/** Rows of the list after a cursor, newest first. */
export async function receiptRows(
  db: Reading,
  filter: ReceiptFilter,
  after: Cursor | null,
  limit: number,
): Promise<ReceiptListRow[]> {
  let query = base(db, filter);
  if (after) query = query.where(sql<boolean>`(receipt.book_date, receipt.id) < (${after.date}, ${after.id})`);
  return query
    .leftJoin('item', 'item.id', 'receipt.item_id')
    .innerJoin('channel', 'channel.id', 'receipt.channel_id')
    .select([
      'receipt.id',
      'receipt.external_id as name',
      'receipt.kind',
      'channel.kind as channelKind',
      'receipt.book_date as date',
      'payer.name as payer',
      'receipt.document',
      'receipt.fund',
      'item.name as item',
      'receipt.note',
      'receipt.gross',
      'receipt.fee',
      'receipt.currency',
      'receipt.payout_ref as payout',
      'receipt.journal_id as journal',
      sql<0 | 1>`receipt.match_id IS NOT NULL OR payout.match_id IS NOT NULL`.as('banked'),
    ])
    .orderBy('receipt.book_date', 'desc')
    .orderBy('receipt.id', 'desc')
    .limit(limit)
    .execute();
}

/** Count and sums of what a filter shows; joins only what the filter needs. */
export async function receiptTotals(db: Reading, filter: ReceiptFilter): Promise<ReceiptTotals> {
  const needsJoin = filter.text !== undefined || filter.state === 'in-transit' || filter.state === 'banked';
  const query = needsJoin
    ? base(db, filter)
    : filterReceipts(db.selectFrom('receipt') as unknown as ReturnType<typeof base>, filter);
  const sums = query.select((e) => [
    e.fn.countAll<number>().as('count'),
    e.fn.coalesce(e.fn.sum<Minor>('receipt.gross'), sql<Minor>`0`).as('gross'),
    e.fn.coalesce(e.fn.sum<Minor>('receipt.fee'), sql<Minor>`0`).as('fee'),
  ]);
  const own = await manyCurrencies(db);
  if (own === null) return { ...(await sums.executeTakeFirstOrThrow()), others: [] };
  const rows = await sums.select('receipt.currency').groupBy('receipt.currency').orderBy('receipt.currency').execute();
  const { gross, fee } = rows.find(({ currency }) => currency === own) ?? { gross: ZERO, fee: ZERO };
  return {
    count: rows.reduce((n, row) => n + row.count, 0),
    gross,
    fee,
    others: rows.filter(({ currency }) => currency !== own).map(({ count: _n, ...sum }) => sum),
  };
}

/** One page of receipts and refunds, newest first, with the totals of the filter. */
export async function listReceipts(
  db: Reading,
  filter: ReceiptFilter,
  after: Cursor | null,
): Promise<Page<ReceiptListRow, ReceiptTotals>> {
  const rows = await receiptRows(db, filter, after, PAGE_SIZE + 1);
  return { ...cut(rows), totals: await receiptTotals(db, filter) };
}
