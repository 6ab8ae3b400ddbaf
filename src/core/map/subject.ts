import type { Currency, Minor } from '../money';

/** What the account map looks at: one line of a receipt, with what is known of the receipt itself. */
export interface MapSubject {
  readonly channel: number;
  readonly site: number | null;
  readonly payer: number | null;
  readonly item: number | null;
  /** Item text, description and note, as the source wrote them. */
  readonly text: string;
  /** How it was paid, as the channel names it: card, cash, transfer …, lower case. */
  readonly method: string;
  readonly currency: Currency;
  /** Gross of the line, minor units; a refund is negative. */
  readonly gross: Minor;
  /** Where it was shipped: country code and region, upper case; empty where nothing was. */
  readonly country: string;
  readonly region: string;
  readonly fund: string;
}
