import { sql } from 'kysely';
import type { TaxPart } from '@/core/channels';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';
import type { Reading } from '../store';
import type { LoadedReceipt } from './load-receipts';

export type TaxedPart = TaxPart & { readonly weight: Minor };

/** The invoice that the original of a chargeback paid. */
export interface PaidInvoice {
  readonly id: number;
  readonly number: string;
  readonly gross: Minor;
  readonly paid: Minor;
  readonly posted: boolean;
}

/** What is known of the receipts that refunds and chargebacks take back, by the refund's or chargeback's id. */
export interface Originals {
  readonly taxed: ReadonlyMap<number, readonly TaxedPart[]>;
  readonly invoices: ReadonlyMap<number, PaidInvoice>;
  /** What is still kept for the payer of the receipt that a refund gives back. */
  readonly kept: ReadonlyMap<number, { readonly receipt: number; readonly amount: Minor }>;
}

const NONE: Originals = { taxed: new Map(), invoices: new Map(), kept: new Map() };

/** Looks up the originals of the refunds and chargebacks among these receipts; most batches have few. */
export async function originalsOf(db: Reading, receipts: readonly LoadedReceipt[]): Promise<Originals> {
  const ids = (kind: string) => receipts.flatMap((receipt) => (receipt.kind === kind ? [receipt.id] : []));
  const [refunds, chargebacks] = [ids('refund'), ids('chargeback')];
  if (refunds.length + chargebacks.length === 0) return NONE;
  return {
    taxed: refunds.length === 0 ? NONE.taxed : await refundTaxes(db, refunds),
    invoices: chargebacks.length === 0 ? NONE.invoices : await paidInvoices(db, chargebacks),
    kept: refunds.length === 0 ? NONE.kept : await keptOf(db, refunds),
  };
}

/**
 * How the original of each refund was taxed: by the lines of the invoice it names or its receipt paid, else by the
 * original receipt's item. What has neither is left to the account map.
 */
async function refundTaxes(db: Reading, refunds: readonly number[]): Promise<Map<number, TaxedPart[]>> {
  const result = new Map<number, TaxedPart[]>();
  const { rows } = await sql<{ refund: number; account: AccountId; code: string; rate: number; weight: Minor }>`
    WITH refund AS (
      SELECT r.id, coalesce(nullif(r.document, ''), o.document, '') AS document, coalesce(o.item_id, r.item_id) AS item
      FROM receipt r LEFT JOIN receipt o
        ON o.channel_id = r.channel_id AND o.external_id = r.refund_of AND r.refund_of <> ''
      WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(refunds)}))
    )
    SELECT refund.id AS refund, t.account_id AS account, t.code, t.rate, sum(l.net + l.tax) AS weight
    FROM refund JOIN invoice i ON i.number = refund.document AND refund.document <> ''
    JOIN invoice_line l ON l.invoice_id = i.id JOIN tax_code t ON t.id = l.tax_code_id
    GROUP BY refund.id, t.id HAVING sum(l.net + l.tax) > 0
    UNION ALL
    SELECT refund.id, t.account_id, t.code, t.rate, 1
    FROM refund JOIN item ON item.id = refund.item JOIN tax_code t ON t.id = item.tax_code_id
    WHERE NOT EXISTS (SELECT 1 FROM invoice i WHERE i.number = refund.document AND refund.document <> '')
  `.execute(db);
  for (const { refund, ...part } of rows) result.set(refund, [...(result.get(refund) ?? []), part]);
  return result;
}

async function keptOf(db: Reading, refunds: readonly number[]): Promise<Originals['kept']> {
  const { rows } = await sql<{ refund: number; receipt: number; amount: Minor }>`
    SELECT r.id AS refund, o.id AS receipt, sum(c.amount) AS amount
    FROM receipt r JOIN receipt o ON o.channel_id = r.channel_id AND o.external_id = r.refund_of AND r.refund_of <> ''
    JOIN credit_entry c ON c.receipt_id = o.id
    WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(refunds)}))
    GROUP BY r.id HAVING sum(c.amount) > 0
  `.execute(db);
  return new Map(rows.map(({ refund, ...kept }) => [refund, kept]));
}

async function paidInvoices(db: Reading, chargebacks: readonly number[]): Promise<Map<number, PaidInvoice>> {
  const { rows } = await sql<Omit<PaidInvoice, 'posted'> & { chargeback: number; posted: 0 | 1 }>`
    SELECT r.id AS chargeback, i.id, i.number, i.gross, i.paid, i.journal_id IS NOT NULL AS posted
    FROM receipt r LEFT JOIN receipt o
      ON o.channel_id = r.channel_id AND o.external_id = r.refund_of AND r.refund_of <> ''
    JOIN invoice i ON i.id = coalesce(r.invoice_id, o.invoice_id)
    WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(chargebacks)}))
  `.execute(db);
  return new Map(rows.map(({ chargeback, posted, ...invoice }) => [chargeback, { ...invoice, posted: posted === 1 }]));
}
