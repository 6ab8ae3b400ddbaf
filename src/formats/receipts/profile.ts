import { z } from 'zod';
import { DELIMITERS, type Delimiter } from '../table/header';
import type { DateOrder, DecimalMark } from '../table/loose';
import { ENCODINGS, type Encoding } from '../text';

/** What a column of a receipts file can be read as. */
export const RECEIPT_FIELDS = [
  'id',
  'kind',
  'time',
  'clock',
  'currency',
  'gross',
  'paidIn',
  'paidOut',
  'fee',
  'net',
  'tip',
  'discount',
  'payer',
  'email',
  'payerId',
  'document',
  'item',
  'units',
  'tax',
  'note',
  'method',
  'site',
  'country',
  'region',
  'fund',
  'payout',
  'refundOf',
] as const;
export type ReceiptField = (typeof RECEIPT_FIELDS)[number];

/** How a file of receipts is read: which column is what, and how values are written. Kept per header. */
export interface ReceiptProfile {
  /** Field to the header it stands under. */
  readonly columns: Readonly<Partial<Record<ReceiptField, string>>>;
  readonly delimiter: Delimiter;
  /** Rows above the header. */
  readonly above: number;
  readonly decimal: DecimalMark;
  readonly dateOrder: DateOrder;
  /** Zone of times that name none. */
  readonly zone: string;
  /** Currency of rows where no column has it. */
  readonly currency: string;
  /** Whether fees are written with a minus. */
  readonly feeSign: 'plus' | 'minus';
  /** Values of the kind column, lower case, that mean a refund, a payout, or nothing to take; all others are receipts. */
  readonly refunds: readonly string[];
  readonly payouts: readonly string[];
  readonly skipped: readonly string[];
  readonly chargebacks: readonly string[];
  /** One receipt a row; or a till's day in several rows: what was sold, how it was paid, tips. */
  readonly shape: 'receipts' | 'till-days';
  /** Till days: values of the kind column, lower case, that mean a way it was paid, and tips; all others are sales. */
  readonly tenders: readonly string[];
  readonly tips: readonly string[];
  /** Till days: whether the amounts sold have their tax in them, or the tax column is added to them. */
  readonly taxIn: 'included' | 'added';
  readonly encoding: Encoding;
}

const words = z.array(z.string().max(80)).max(50);

export const receiptProfile: z.ZodType<ReceiptProfile, unknown> = z.object({
  columns: z.partialRecord(z.enum(RECEIPT_FIELDS), z.string().min(1).max(200)),
  delimiter: z.enum(DELIMITERS),
  above: z.number().int().min(0).max(100),
  decimal: z.enum(['.', ',']),
  dateOrder: z.enum(['YMD', 'DMY', 'MDY', 'serial']),
  zone: z.string().min(1).max(60),
  currency: z.string().regex(/^[A-Z]{3}$/),
  feeSign: z.enum(['plus', 'minus']),
  refunds: words,
  payouts: words,
  skipped: words,
  chargebacks: words.default([]),
  shape: z.enum(['receipts', 'till-days']).default('receipts'),
  tenders: words.default([]),
  tips: words.default([]),
  taxIn: z.enum(['included', 'added']).default('included'),
  encoding: z.enum(ENCODINGS).default('auto'),
});

/** Words of plain bookkeeping that a column is named by; the first field that fits takes it, each column once. */
export const HEADER_WORDS: Readonly<Record<ReceiptField, RegExp>> = {
  refundOf: /^(refund of|refunds|original( id| receipt)?|refunded (id|receipt))$/,
  payout:
    /^(payout|pay out|payout (id|no|number|reference)|settlement( id| no| reference)?|deposit id|batch( id)?|auszahlung)$/,
  id: /^(id|receipt( id| no| number)?|payment( id| no| number)?|transaction( id| no| number)?|reference|ref|no|nr|number|gift( id| no)?|confirmation( number| no)?|beleg(nummer)?)$/,
  clock: /^(clock|time of day|hour|uhrzeit)$/,
  time: /^(time|date|datetime|date time|created( at| on)?|paid( at| on)?|received( at| on)?|booked|value date|when|time \(utc\)|datum|date de paiement|day)$/,
  kind: /^(type|kind|category|event|transaction type|row|art|typ)$/,
  currency: /^(currency|ccy|cur|währung|devise)$/,
  gross:
    /^(gross|gross amount|amount|total|paid|sum|value|price|betrag|brutto|montant|amount paid|gift|donation|amount gross)$/,
  paidIn: /^(in|money in|paid in|credit|credits|amount in|eingang|haben)$/,
  paidOut: /^(out|money out|paid out|debit|debits|amount out|ausgang|soll)$/,
  fee: /^(fee|fees|charge|charges|commission|gebühr|frais|cost)$/,
  net: /^(net|net amount|netto|amount net|payout amount)$/,
  tip: /^(tip|tips|gratuity|trinkgeld)$/,
  discount: /^(discount|rebate|reduction|rabatt|remise)$/,
  email: /^(email|e mail|mail|payer email|customer email|donor email)$/,
  payerId: /^(payer (id|no|number)|customer (id|no|number)|member (id|no|number)|donor (id|no))$/,
  payer: /^(payer|payer name|name|customer|customer name|member|donor|donor name|from|client|kunde|sender)$/,
  document: /^(document|invoice|invoice (no|number|id)|bill|rechnung(snummer)?|facture|order( no| number)?)$/,
  item: /^(item|item code|product|sku|artikel|sold|what|line)$/,
  units: /^(units|quantity|qty|count|pieces|anzahl|menge)$/,
  tax: /^(tax|vat|sales tax|tax amount|ust|mwst|tva)$/,
  method: /^(method|payment method|paid by|tender|means|zahlungsart|card)$/,
  site: /^(site|location|place|branch|shop|till|store|standort)$/,
  country: /^(country|ship to country|country code|land|shipping country)$/,
  region: /^(region|state|county|province|ship to region)$/,
  fund: /^(fund|campaign|purpose|appeal|designation|restricted to|zweck)$/,
  note: /^(note|notes|description|memo|text|comment|details|message|subject|what( for)?|for|verwendungszweck|particulars)$/,
};
