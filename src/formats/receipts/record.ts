import type { Currency, Minor } from '../../core/money';

/** One thing a receipt was for, where there are several. Amounts in minor units. */
export interface RecordLine {
  readonly item: string;
  readonly description: string;
  /** Thousandths. */
  readonly units: number;
  /** Paid for it: tax included, after its discount. */
  readonly gross: Minor;
  readonly discount: Minor;
  readonly tax: Minor | null;
}

/** What was handed over, where it is more than one thing. */
export interface RecordTender {
  readonly tender: string;
  readonly amount: Minor;
}

/** One movement of a channel as an export states it. Amounts in minor units, signed: what leaves is negative. */
export interface ReceiptRecord {
  readonly line: number;
  /** A chargeback is below zero where it is opened, above where it was won. */
  readonly kind: 'receipt' | 'refund' | 'chargeback' | 'payout';
  readonly id: string;
  /** UTC. */
  readonly at: Date;
  readonly currency: Currency;
  readonly gross: Minor;
  readonly tip: Minor;
  /** Null where the export does not say what was taken. */
  readonly fee: Minor | null;
  readonly payer: string;
  readonly email: string;
  readonly document: string;
  readonly item: string;
  readonly note: string;
  /** The payout that carried it, where the channel has said so. */
  readonly payout: string;
  /** For a refund, the receipt it gives back. */
  readonly refundOf: string;
  /** Given off the price, tax included; gross is what was paid. */
  readonly discount: Minor;
  /** The channel's own id of the payer. */
  readonly payerId: string;
  readonly method: string;
  readonly site: string;
  readonly country: string;
  readonly region: string;
  readonly fund: string;
  /** Set where it is for several things; they and the tip come to gross. */
  readonly lines?: readonly RecordLine[];
  /** Set where it was paid in several ways; they come to gross. */
  readonly tenders?: readonly RecordTender[];
}

/** What a movement's gross must be by its kind, where it is not: the words of the refusal; null where it is. */
export function wrongSign(kind: ReceiptRecord['kind'], gross: Minor): string | null {
  switch (kind) {
    case 'receipt':
      return gross > 0 ? null : 'above zero';
    case 'chargeback':
      return gross !== 0 ? null : 'another amount than nothing';
    case 'refund':
    case 'payout':
      return gross < 0 ? null : 'below zero';
  }
}
