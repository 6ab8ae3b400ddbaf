import type { PlainDate } from '@/core/calendar';
import type { Currency, Minor } from '@/core/money';
import type { Landing } from '@/core/map';
import type { ChannelKind, Reading, ReceiptKind } from '../store';
import { changeSince, type ChangeSince } from './take-change';

/** One thing a receipt was for. */
export interface ReceiptLineView {
  readonly what: string;
  /** Thousandths. */
  readonly units: number;
  readonly gross: Minor;
  readonly discount: Minor;
}

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
  /** The receipt that a refund or chargeback takes back, by the channel's id; empty where it says none. */
  readonly takesBack: string;
  readonly gross: Minor;
  readonly tip: Minor;
  readonly fee: Minor | null;
  readonly payout: string;
  readonly payoutId: number | null;
  readonly file: string;
  readonly journal: number | null;
  readonly revision: number;
  readonly channel: string;
  readonly channelId: number;
  readonly channelKind: ChannelKind;
  /** The channel's: all amounts are in it. */
  readonly currency: Currency;
  readonly site: string | null;
  /** What it was for and how it was paid, where that is several things. */
  readonly lines: readonly ReceiptLineView[];
  readonly tenders: readonly { readonly tender: string; readonly amount: Minor }[];
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
    .leftJoin('site', 'site.id', 'receipt.site_id')
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
      'receipt.refund_of as takesBack',
      'receipt.gross',
      'receipt.tip',
      'receipt.fee',
      'receipt.payout_ref as payout',
      'receipt.payout_id as payoutId',
      'run.file_name as file',
      'receipt.journal_id as journal',
      'receipt.revision',
      'channel.name as channel',
      'channel.id as channelId',
      'channel.kind as channelKind',
      'receipt.currency',
      'site.name as site',
      'receipt.method',
      'receipt.fund',
      'receipt.aside',
      'receipt.landing',
    ])
    .where('receipt.id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const landing = row.landing === null ? {} : (JSON.parse(row.landing) as Landing);
  const lines = await db
    .selectFrom('receipt_line')
    .leftJoin('item', 'item.id', 'receipt_line.item_id')
    .select(['item.name as item', 'receipt_line.description', 'units', 'gross', 'discount'])
    .where('receipt_id', '=', id)
    .orderBy('line_no')
    .execute();
  const tenders = await db
    .selectFrom('receipt_tender')
    .select(['tender', 'amount'])
    .where('receipt_id', '=', id)
    .orderBy('tender')
    .execute();
  return {
    ...row,
    landing,
    change: await changeSince(db, id),
    lines: lines.map(({ item, description, ...line }) => ({
      what: [item, description].filter(Boolean).join(' '),
      ...line,
    })),
    tenders,
  };
}
