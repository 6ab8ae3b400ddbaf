import { sql } from 'kysely';
import { receiptEntry, settledBy, type ReceiptPurpose, type TaxPart } from '@/core/channels';
import type { PlainDate } from '@/core/calendar';
import type { AccountId, Entry } from '@/core/ledger';
import type { Decision } from '@/core/map';
import { add, negate, subtract, type Minor } from '@/core/money';
import type { Refusal } from '../command';
import { BooksMap } from '../map/load-map';
import type { Reading } from '../store';
import { loadReceipts, type LoadedReceipt } from './load-receipts';

export interface PlannedReceipt {
  readonly id: number;
  readonly name: string;
  readonly channel: number;
  readonly site: number | null;
  readonly date: PlainDate;
  readonly gross: Minor;
  readonly revision: number;
  readonly memo: string;
  readonly entry: Entry;
  /** Deposited elsewhere than in the channel's clearing account. */
  readonly elsewhere: boolean;
  readonly settles: { readonly invoice: number; readonly amount: Minor } | null;
}

export type PlanResult = PlannedReceipt | { readonly id: number; readonly name: string; readonly refusal: Refusal };

type TaxedPart = TaxPart & { readonly weight: Minor };

/** What a channel's entries need beside what the map decides. */
interface ChannelParts {
  readonly refunds: AccountId;
  readonly tipsPayable: AccountId;
  readonly discounts: AccountId | null;
}

/**
 * Plans the entries of receipts batch by batch, in the order given. What the receipts of one planning settle of their
 * invoices is carried along, so that two receipts for one invoice do not both take the same open amount.
 */
export class ReceiptPlanner {
  /** Paid so far per invoice, as far as this planning has touched it. */
  private readonly paid = new Map<number, Minor>();

  private constructor(
    private readonly map: BooksMap,
    private readonly channels: ReadonlyMap<number, ChannelParts>,
    private readonly receivable: AccountId,
    private readonly payerCredit: AccountId,
    private readonly closedThrough: PlainDate | null,
  ) {}

  static async open(db: Reading): Promise<ReceiptPlanner> {
    const books = await db.selectFrom('books').select('closed_through').executeTakeFirstOrThrow();
    const channels = await db.selectFrom('channel').selectAll().execute();
    const roles = await db
      .selectFrom('account')
      .select(['id', 'role'])
      .where('role', 'in', ['receivable', 'payer_credit'])
      .execute();
    const role = (name: string) => roles.find((account) => account.role === name)!.id;
    return new ReceiptPlanner(
      await BooksMap.load(db),
      new Map(
        channels.map((channel) => [
          channel.id,
          {
            refunds: channel.refund_account_id,
            tipsPayable: channel.tips_account_id,
            discounts: channel.discount_account_id,
          },
        ]),
      ),
      role('receivable'),
      role('payer_credit'),
      books.closed_through,
    );
  }

  /** Plans these receipts; each gives its entry or the reason why it cannot be posted. */
  async plan(db: Reading, ids: readonly number[]): Promise<PlanResult[]> {
    return this.planLoaded(db, await loadReceipts(db, ids));
  }

  /** Plans receipts that were looked up already, posted or not: what the map and the recipes say of them now. */
  async planLoaded(db: Reading, receipts: readonly LoadedReceipt[]): Promise<PlanResult[]> {
    const refunds = receipts.filter((receipt) => receipt.kind === 'refund');
    const taxed = refunds.length === 0 ? NO_TAXES : await refundTaxes(db, refunds);
    return receipts.map((receipt) => this.planOne(receipt, taxed));
  }

  private planOne(receipt: LoadedReceipt, taxed: ReadonlyMap<number, TaxedPart[]>): PlanResult {
    const { id, external_id: name, book_date: date } = receipt;
    if (this.closedThrough !== null && date <= this.closedThrough) {
      return { id, name, refusal: { code: 'period-closed', date, closedThrough: this.closedThrough } };
    }
    const { invoice_id: invoice } = receipt;
    if (receipt.kind === 'receipt' && invoice !== null && receipt.invoice_journal === null) {
      return { id, name, refusal: { code: 'invoice-not-posted', invoice: receipt.document, receipt: name } };
    }
    const decision = this.map.decide(receipt);
    const purpose = this.purposeOf(receipt, decision, taxed);
    if ('refusal' in purpose) return { id, name, refusal: purpose.refusal };
    const channel = this.channels.get(receipt.channel)!;
    if (receipt.discount !== 0 && channel.discounts === null) {
      const refusal: Refusal = {
        code: 'channel-account-missing',
        channel: this.map.channelName(receipt.channel),
        account: 'discounts',
        receipt: name,
      };
      return { id, name, refusal };
    }
    const settles = settledBy(receipt, purpose);
    if (invoice !== null && settles > 0) {
      this.paid.set(invoice, add(this.paid.get(invoice) ?? receipt.invoice_paid!, settles));
    }
    const deposit = this.map.deposit(receipt, decision);
    return {
      id,
      name,
      elsewhere: deposit.because.why === 'mapped',
      channel: receipt.channel,
      site: receipt.site,
      date,
      gross: receipt.gross,
      revision: receipt.revision + 1,
      memo: memoOf(receipt),
      entry: receiptEntry(receipt, purpose, {
        deposit,
        fees: this.map.fees(receipt, decision, receipt.fee),
        receivable: this.receivable,
        payerCredit: this.payerCredit,
        ...channel,
      }),
      settles: invoice !== null && settles > 0 ? { invoice, amount: settles } : null,
    };
  }

  private purposeOf(
    receipt: LoadedReceipt,
    decision: Decision,
    taxed: ReadonlyMap<number, TaxedPart[]>,
  ): ReceiptPurpose | { readonly refusal: Refusal } {
    if (receipt.kind === 'refund') {
      const tax = this.map.taxOf(decision);
      const fallback = tax === null ? [] : [{ ...tax, weight: 1 as Minor }];
      return {
        kind: 'refund',
        of: receipt.document || receipt.refund_of,
        taxed: taxed.get(receipt.id) ?? fallback,
        dimensions: this.map.dimensionsOf(decision),
      };
    }
    if (receipt.document !== '') {
      const open =
        receipt.invoice_id === null
          ? null
          : subtract(receipt.invoice_gross!, this.paid.get(receipt.invoice_id) ?? receipt.invoice_paid!);
      return { kind: 'invoice', document: receipt.document, open };
    }
    const price = subtract(receipt.gross, receipt.tip);
    const line = this.map.saleLine(decision, price, receipt.discount, receipt.external_id);
    return 'refusal' in line ? line : { kind: 'sale', lines: [line] };
  }
}

const NO_TAXES: ReadonlyMap<number, TaxedPart[]> = new Map();

/**
 * How the original of each refund was taxed: by the lines of the invoice it names or its receipt paid, else by the
 * original receipt's item. What has neither is left to the account map.
 */
async function refundTaxes(db: Reading, refunds: readonly LoadedReceipt[]): Promise<Map<number, TaxedPart[]>> {
  const result = new Map<number, TaxedPart[]>();
  const { rows } = await sql<{ refund: number; account: AccountId; code: string; rate: number; weight: Minor }>`
    WITH refund AS (
      SELECT r.id, coalesce(nullif(r.document, ''), o.document, '') AS document, coalesce(o.item_id, r.item_id) AS item
      FROM receipt r LEFT JOIN receipt o
        ON o.channel_id = r.channel_id AND o.external_id = r.refund_of AND r.refund_of <> ''
      WHERE r.id IN (SELECT value FROM json_each(${JSON.stringify(refunds.map(({ id }) => id))}))
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

function memoOf(receipt: LoadedReceipt): string {
  const what = receipt.kind === 'refund' ? 'Refund' : 'Receipt';
  const about = receipt.document || receipt.itemCode || '';
  return [`${what} ${receipt.external_id}`, receipt.payerName, about].filter(Boolean).join(', ');
}

/** What clearing holds of a posted receipt: gross less a fee that is stated. Minor units; a refund is negative. */
export function heldByClearing(receipt: { readonly gross: Minor; readonly fee: Minor | null }): Minor {
  return add(receipt.gross, negate(receipt.fee ?? (0 as Minor)));
}
