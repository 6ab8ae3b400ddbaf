import type { PlainDate } from '@/core/calendar';
import { feeOf } from '@/core/channels';
import type { AccountId, DepositPart, Dimensions, DiscountShare, TotalFee } from '@/core/ledger';
import { formatAmount, subtract, ZERO, type Currency, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import type { ChannelBooking, ChannelBookings } from './channel-bookings';
import type { AccountPartInput, PartInput } from './part-input';
import type { AccountRow, InvoiceRow, PayoutRow, ReceiptRow } from './part-rows';

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
