import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { feeOf, type FeeSchedule } from '@/core/channels';
import type { AccountId, DepositPart } from '@/core/ledger';
import { minor, subtract, ZERO, type Currency, type Minor } from '@/core/money';
import type { Refusal } from '../command';
import type { Reading } from '../store';

/** What a user lays on the working sheet. An invoice says how much of it, minor units. */
export const partInput = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('payout'), id: z.number().int() }),
  z.object({ kind: z.literal('receipt'), id: z.number().int() }),
  z.object({
    kind: z.literal('invoice'),
    id: z.number().int(),
    amount: z.custom<Minor>((v) => Number.isSafeInteger(v) && (v as number) > 0, 'an amount above zero'),
  }),
]);
export type PartInput = z.infer<typeof partInput>;

/** A part as the sheet lists it. Amounts in minor units; net is what it brings to the bank. */
export interface SheetPart {
  readonly kind: PartInput['kind'];
  readonly id: number;
  readonly title: string;
  readonly note: string;
  readonly date: PlainDate;
  readonly gross: Minor;
  readonly fee: Minor;
  /** The channel's own figure, or worked out from its schedule because the channel gave none. */
  readonly feeFrom: 'channel' | 'schedule' | 'none';
  readonly net: Minor;
  /** What the ledger gives up for it, for {@link depositEntry}. */
  readonly part: DepositPart;
}

export interface ChannelBooking {
  readonly name: string;
  readonly clearing: AccountId;
  readonly fees: AccountId;
  readonly schedule: FeeSchedule;
}

export async function channelBooking(db: Reading): Promise<ChannelBooking> {
  const channel = await db.selectFrom('channel').selectAll().orderBy('id').executeTakeFirstOrThrow();
  return {
    name: channel.name,
    clearing: channel.clearing_account_id,
    fees: channel.fee_account_id,
    schedule: { rate: channel.fee_rate, fixed: channel.fee_fixed },
  };
}

export interface PayoutRow {
  readonly id: number;
  readonly external_id: string;
  readonly book_date: PlainDate;
  readonly net: Minor;
  readonly receipt_count: number;
  readonly receipt_gross: Minor;
  readonly not_posted: number;
}

export interface ReceiptRow {
  readonly id: number;
  readonly external_id: string;
  readonly book_date: PlainDate;
  readonly gross: Minor;
  readonly fee: Minor | null;
  readonly payer: string | null;
  readonly document: string;
  readonly note: string;
}

export interface InvoiceRow {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly payer: string;
  readonly open: Minor;
}

export function payoutPart(row: PayoutRow, channel: ChannelBooking): SheetPart {
  const count = `${row.receipt_count} ${row.receipt_count === 1 ? 'receipt' : 'receipts'}`;
  const gross = row.receipt_count === 0 ? row.net : row.receipt_gross;
  return {
    kind: 'payout',
    id: row.id,
    title: `Payout ${row.external_id}`,
    note: row.not_posted > 0 ? `${count}, ${row.not_posted} of them not posted yet` : count,
    date: row.book_date,
    gross,
    fee: subtract(gross, row.net),
    feeFrom: 'channel',
    net: row.net,
    part: { kind: 'payout', reference: row.external_id, clearing: channel.clearing, net: row.net },
  };
}

export function receiptPart(row: ReceiptRow, channel: ChannelBooking): SheetPart {
  const scheduleFee = row.fee === null ? feeOf(row.gross, channel.schedule) : ZERO;
  const held = subtract(row.gross, row.fee ?? ZERO);
  const fee = row.fee ?? scheduleFee;
  const { clearing, fees } = channel;
  return {
    kind: 'receipt',
    id: row.id,
    title: `Receipt ${row.external_id}${row.payer ? ` · ${row.payer}` : ''}`,
    note: row.document ? `invoice ${row.document}` : row.note || 'paid sale',
    date: row.book_date,
    gross: row.gross,
    fee,
    feeFrom: row.fee === null ? 'schedule' : 'channel',
    net: subtract(row.gross, fee),
    part: { kind: 'receipt', reference: row.external_id, clearing, fees, held, scheduleFee },
  };
}

export function invoicePart(row: InvoiceRow, amount: Minor, receivable: AccountId): SheetPart {
  return {
    kind: 'invoice',
    id: row.id,
    title: `Invoice ${row.number} · ${row.payer}`,
    note: amount < row.open ? 'part of what is open' : 'all that is open',
    date: row.issued,
    gross: amount,
    fee: ZERO,
    feeFrom: 'none',
    net: amount,
    part: { kind: 'invoice', reference: row.number, receivable, applied: amount },
  };
}

/** Who holds a payout or receipt already, for a refusal. */
async function holder(db: Reading, match: number): Promise<string> {
  const row = await db.selectFrom('match').select('actor').where('id', '=', match).executeTakeFirst();
  return row?.actor ?? 'someone';
}

export const PAYOUT_COLUMNS = sql`
  p.id, p.external_id, p.book_date, p.net, p.receipt_count, p.receipt_gross,
  (SELECT count(*) FROM receipt r WHERE r.payout_id = p.id AND r.journal_id IS NULL) AS not_posted`;

export async function receivableOf(db: Reading): Promise<AccountId> {
  const row = await db.selectFrom('account').select('id').where('role', '=', 'receivable').executeTakeFirstOrThrow();
  return row.id;
}

/** Looks the parts up and checks that each is free, posted and large enough. The first that is not refuses all. */
export async function loadParts(
  db: Reading,
  inputs: readonly PartInput[],
  currency: Currency,
): Promise<{ readonly parts: SheetPart[] } | { readonly refusal: Refusal }> {
  const channel = await channelBooking(db);
  const receivable = await receivableOf(db);
  const parts: SheetPart[] = [];
  const seen = new Set<string>();
  for (const input of inputs) {
    const key = `${input.kind}/${input.id}`;
    if (seen.has(key)) return { refusal: { code: 'invalid-input', field: 'parts', expected: 'each part once' } };
    seen.add(key);
    const loaded = await loadPart(db, input, channel, receivable, currency);
    if ('code' in loaded) return { refusal: loaded };
    parts.push(loaded);
  }
  return { parts };
}

async function loadPart(
  db: Reading,
  input: PartInput,
  channel: ChannelBooking,
  receivable: AccountId,
  currency: Currency,
): Promise<SheetPart | Refusal> {
  switch (input.kind) {
    case 'payout': {
      const { rows } = await sql<PayoutRow & { match_id: number | null }>`
        SELECT ${PAYOUT_COLUMNS}, p.match_id FROM payout p WHERE p.id = ${input.id}
      `.execute(db);
      const row = rows[0];
      if (!row) return { code: 'not-found', what: 'payout', id: String(input.id) };
      const part = payoutPart(row, channel);
      if (row.match_id !== null) return { code: 'part-taken', part: part.title, by: await holder(db, row.match_id) };
      return part;
    }
    case 'receipt': {
      const row = await db
        .selectFrom('receipt')
        .leftJoin('payer', 'payer.id', 'receipt.payer_id')
        .selectAll('receipt')
        .select('payer.name as payer')
        .where('receipt.id', '=', input.id)
        .executeTakeFirst();
      if (!row) return { code: 'not-found', what: 'receipt', id: String(input.id) };
      const part = receiptPart(row, channel);
      if (row.match_id !== null) return { code: 'part-taken', part: part.title, by: await holder(db, row.match_id) };
      if (row.payout_ref !== '') return { code: 'part-in-payout', part: part.title, payout: row.payout_ref };
      if (row.journal_id === null) return { code: 'part-not-posted', part: part.title };
      return part;
    }
    case 'invoice': {
      const row = await db
        .selectFrom('invoice')
        .innerJoin('payer', 'payer.id', 'invoice.payer_id')
        .selectAll('invoice')
        .select('payer.name as payer')
        .where('invoice.id', '=', input.id)
        .executeTakeFirst();
      if (!row) return { code: 'not-found', what: 'invoice', id: String(input.id) };
      const open = subtract(row.gross, row.paid);
      const part = invoicePart({ ...row, open }, minor(input.amount), receivable);
      if (row.journal_id === null) return { code: 'part-not-posted', part: part.title };
      if (input.amount > open) {
        return { code: 'part-too-large', part: part.title, open, asked: input.amount, currency };
      }
      return part;
    }
  }
}
