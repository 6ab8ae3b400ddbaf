import { plural } from '@/core/words';
import { sql, type RawBuilder } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { feeOf, type FeeSteps } from '@/core/channels';
import type { AccountId, DepositPart, Dimensions, DiscountShare, TotalFee } from '@/core/ledger';
import { formatAmount, subtract, ZERO, type BasisPoints, type Currency, type Minor } from '@/core/money';
import { feeStepsOf } from '../channels/fee-steps';
import { TOTAL_FEE } from '../payouts/total-fee';
import { namesOf, type Reading } from '../store';

/** Some of a line, booked straight to an account. */
export const accountPartInput = z.object({
  kind: z.literal('account'),
  id: z.custom<AccountId>((v) => Number.isSafeInteger(v), 'an account'),
  amount: z.custom<Minor>((v) => Number.isSafeInteger(v) && v !== 0, 'an amount other than nothing'),
  /** Value by dimension. */
  dimensions: z.record(z.coerce.number().int().positive(), z.number().int().positive()).default({}),
  taxCode: z.number().int().nullable().default(null),
  /** The statement rule that said so. */
  rule: z.string().max(80).nullable().default(null),
  ruleId: z.number().int().nullable().default(null),
  /** Whose money it is. */
  payer: z.number().int().nullable().default(null),
});

/** What a user lays on the working sheet. An invoice says how much of it, minor units. */
export const partInput = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('payout'), id: z.number().int() }),
  z.object({ kind: z.literal('receipt'), id: z.number().int() }),
  /** Another statement line that belongs to this one. */
  z.object({ kind: z.literal('line'), id: z.number().int() }),
  z.object({
    kind: z.literal('invoice'),
    id: z.number().int(),
    amount: z.custom<Minor>((v) => Number.isSafeInteger(v) && (v as number) > 0, 'an amount above zero'),
  }),
  accountPartInput,
]);
export type PartInput = z.infer<typeof partInput>;
export type AccountPartInput = z.infer<typeof accountPartInput>;

/** A part as the sheet lists it. Amounts in minor units; net is what it brings to the bank. */
export interface SheetPart {
  readonly kind: PartInput['kind'];
  readonly id: number;
  readonly title: string;
  readonly note: string;
  readonly date: PlainDate;
  readonly gross: Minor;
  readonly fee: Minor;
  /** The channel's own figure, or worked out because the channel gave none: by its schedule, or by one that was learnt. */
  readonly feeFrom: 'channel' | 'schedule' | 'learnt' | 'none';
  readonly net: Minor;
  /** What the ledger gives up for it, for {@link depositEntry}. */
  readonly part: DepositPart;
  /** Where the rest of a deposit with it belongs: a payout that was converted leaves a currency difference. */
  readonly restTo?: AccountId;
  /** Of an invoice: who owes it. */
  readonly owedBy?: { readonly id: number; readonly name: string };
  /** Of an account: what it was said to be booked under. */
  readonly detail?: Omit<AccountPartInput, 'kind' | 'id' | 'amount'>;
}

export interface ChannelBooking {
  readonly name: string;
  readonly clearing: AccountId;
  readonly fees: AccountId;
  readonly fx: AccountId | null;
  readonly takes: FeeSteps;
}

/** Every channel of the books, by its id. */
export type ChannelBookings = ReadonlyMap<number, ChannelBooking>;

export async function channelBookings(db: Reading): Promise<ChannelBookings> {
  const channels = await db.selectFrom('channel').selectAll().execute();
  const steps = await feeStepsOf(db);
  return new Map(
    channels.map((channel) => [
      channel.id,
      {
        name: channel.name,
        clearing: channel.clearing_account_id,
        fees: channel.fee_account_id,
        fx: channel.fx_account_id,
        takes: steps.get(channel.id)!,
      },
    ]),
  );
}

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

export interface InvoiceRow {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly payer: string;
  readonly payerId: number;
  readonly open: Minor;
}

/** A payout in another currency: on the sheet it is what clearing carries of it, in the books' own (recipe 23). */
function convertedPayout(row: PayoutRow, channel: ChannelBooking, currency: Currency): SheetPart {
  const net = row.carried ?? ZERO;
  return {
    kind: 'payout',
    id: row.id,
    title: `Payout ${row.external_id}`,
    note: `${currency} ${formatAmount(row.net, currency)}, carried at the rates of its days`,
    date: row.book_date,
    gross: net,
    fee: ZERO,
    feeFrom: 'none',
    net,
    part: {
      kind: 'payout',
      reference: row.external_id,
      clearing: channel.clearing,
      net,
      foreign: { currency, amount: row.net },
    },
    ...(channel.fx !== null && { restTo: channel.fx }),
  };
}

export function payoutPart(row: PayoutRow, channels: ChannelBookings): SheetPart {
  const channel = channels.get(row.channel_id)!;
  if (row.foreign_currency !== null) return convertedPayout(row, channel, row.foreign_currency);
  const count = plural(row.receipt_count, 'receipt');
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
    part: {
      kind: 'payout',
      reference: row.external_id,
      clearing: channel.clearing,
      net: row.net,
      ...(row.total_fee > 0 && {
        totalFee: {
          account: channel.fees,
          amount: row.total_fee,
          over: JSON.parse(row.over ?? '[]') as TotalFee['over'],
        },
      }),
    },
  };
}

export function receiptPart(row: ReceiptRow, channels: ChannelBookings): SheetPart {
  const channel = channels.get(row.channel_id)!;
  const atChannel = subtract(row.gross, row.not_held);
  const scheduleFee = row.fee === null ? feeOf(atChannel, channel.takes.on(row.book_date)) : ZERO;
  const learnt = row.fee === null && channel.takes.step(row.book_date)?.learnt === true;
  const held = subtract(atChannel, row.fee ?? ZERO);
  const fee = row.fee ?? scheduleFee;
  const { clearing, fees } = channel;
  return {
    kind: 'receipt',
    id: row.id,
    title: `Receipt ${row.external_id}${row.payer ? ` · ${row.payer}` : ''}`,
    note: row.document ? `invoice ${row.document}` : row.fund ? `fund ${row.fund}` : row.note || 'paid sale',
    date: row.book_date,
    gross: atChannel,
    fee,
    feeFrom: row.fee !== null ? 'channel' : learnt ? 'learnt' : 'schedule',
    net: subtract(atChannel, fee),
    part: {
      kind: 'receipt',
      reference: row.external_id,
      clearing,
      fees,
      held,
      scheduleFee,
      ...(learnt && { learntFee: true }),
      ...(row.dimensions && { dimensions: JSON.parse(row.dimensions) as Dimensions }),
    },
  };
}

/** What is taken off an invoice for paying early, and where that is booked. */
export interface TakenEarly {
  readonly discounts: AccountId;
  readonly shares: readonly DiscountShare[];
}

export function invoicePart(
  row: InvoiceRow,
  amount: Minor,
  receivable: AccountId,
  early: TakenEarly | null = null,
): SheetPart {
  return {
    kind: 'invoice',
    id: row.id,
    title: `Invoice ${row.number} · ${row.payer}`,
    note: early
      ? 'all that is open, less the discount for paying early'
      : amount < row.open
        ? 'part of what is open'
        : 'all that is open',
    date: row.issued,
    gross: amount,
    fee: ZERO,
    feeFrom: 'none',
    net: amount,
    part: { kind: 'invoice', reference: row.number, receivable, applied: amount, early },
    owedBy: { id: row.payerId, name: row.payer },
  };
}

/** What an account is on a sheet: its name, and what its tax code takes out of an amount. */
export interface AccountRow {
  readonly name: string;
  readonly tax: { readonly account: AccountId; readonly code: string; readonly rate: BasisPoints } | null;
  /** Names of the dimension values, for the note. */
  readonly values: readonly string[];
}

export function accountPart(input: AccountPartInput, row: AccountRow, date: PlainDate): SheetPart {
  const { amount } = input;
  return {
    kind: 'account',
    id: input.id,
    title: `Booked to ${row.name}`,
    note: [...row.values, row.tax ? `tax ${row.tax.code} within` : '', input.rule ? `rule “${input.rule}”` : '']
      .filter(Boolean)
      .join(', '),
    date,
    gross: amount,
    fee: ZERO,
    feeFrom: 'none',
    net: amount,
    part: {
      kind: 'account',
      account: input.id,
      amount,
      dimensions: Object.entries(input.dimensions).map(([dimension, value]) => [Number(dimension), value] as const),
      tax: row.tax,
      rule: input.rule,
    },
    detail: {
      dimensions: input.dimensions,
      taxCode: input.taxCode,
      rule: input.rule,
      ruleId: input.ruleId,
      payer: input.payer,
    },
  };
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

export async function receivableOf(db: Reading): Promise<AccountId> {
  const row = await db.selectFrom('account').select('id').where('role', '=', 'receivable').executeTakeFirstOrThrow();
  return row.id;
}
