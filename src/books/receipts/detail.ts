import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import type { Landing } from '@/core/map';
import type { Reading, ReceiptKind } from '../store';
import { changeSince, type ChangeSince } from './take-change';

/** One receipt or refund with where it came from. Amounts in minor units. */
export interface ReceiptDetail {
  readonly id: number;
  readonly name: string;
  readonly kind: ReceiptKind;
  readonly at: string;
  readonly date: PlainDate;
  readonly payer: string | null;
  readonly email: string | null;
  readonly document: string;
  /** Whether the document is an invoice of these books. */
  readonly invoice: number | null;
  readonly item: string | null;
  readonly note: string;
  readonly gross: Minor;
  readonly tip: Minor;
  readonly fee: Minor | null;
  readonly payout: string;
  readonly payoutId: number | null;
  readonly file: string;
  readonly journal: number | null;
  readonly revision: number;
  readonly channel: string;
  readonly method: string;
  readonly fund: string;
  /** Why it is set aside; null where it is not. */
  readonly aside: string | null;
  /** What the user set on it. */
  readonly landing: Landing;
  readonly change: ChangeSince | null;
}

export async function receiptDetail(db: Reading, id: number): Promise<ReceiptDetail | null> {
  const row = await db
    .selectFrom('receipt')
    .leftJoin('payer', 'payer.id', 'receipt.payer_id')
    .leftJoin('item', 'item.id', 'receipt.item_id')
    .innerJoin('run', 'run.id', 'receipt.run_id')
    .innerJoin('channel', 'channel.id', 'receipt.channel_id')
    .select([
      'receipt.id',
      'receipt.external_id as name',
      'receipt.kind',
      'receipt.occurred_at as at',
      'receipt.book_date as date',
      'payer.name as payer',
      'payer.email',
      'receipt.document',
      'receipt.invoice_id as invoice',
      'item.name as item',
      'receipt.note',
      'receipt.gross',
      'receipt.tip',
      'receipt.fee',
      'receipt.payout_ref as payout',
      'receipt.payout_id as payoutId',
      'run.file_name as file',
      'receipt.journal_id as journal',
      'receipt.revision',
      'channel.name as channel',
      'receipt.method',
      'receipt.fund',
      'receipt.aside',
      'receipt.landing',
    ])
    .where('receipt.id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const landing = row.landing === null ? {} : (JSON.parse(row.landing) as Landing);
  return { ...row, landing, change: await changeSince(db, id) };
}
