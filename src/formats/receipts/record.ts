import type { Currency, Minor } from '../../core/money';

/** One movement of a channel as an export states it. Amounts in minor units, signed: what leaves is negative. */
export interface ReceiptRecord {
  readonly line: number;
  readonly kind: 'receipt' | 'refund' | 'payout';
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
}
