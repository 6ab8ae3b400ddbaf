import { sql } from 'kysely';
import { receiptEntry, settledBy, type ChannelAccounts, type ReceiptPurpose, type TaxPart } from '@/core/channels';
import type { PlainDate } from '@/core/calendar';
import type { AccountId, Entry } from '@/core/ledger';
import { add, negate, type Minor } from '@/core/money';
import type { Refusal } from '../command';
import type { Reading } from '../store';

/** One receipt looked up with all that decides its entry. */
interface LoadedReceipt {
  id: number;
  external_id: string;
  kind: 'receipt' | 'refund';
  book_date: PlainDate;
  gross: Minor;
  tip: Minor;
  fee: Minor | null;
  document: string;
  refund_of: string;
  revision: number;
  payer: string | null;
  item: number | null;
  invoice_id: number | null;
  invoice_gross: Minor | null;
  invoice_paid: Minor | null;
  invoice_journal: number | null;
}

export interface PlannedReceipt {
  readonly id: number;
  readonly name: string;
  readonly date: PlainDate;
  readonly gross: Minor;
  readonly revision: number;
  readonly memo: string;
  readonly entry: Entry;
  readonly settles: { readonly invoice: number; readonly amount: Minor } | null;
}

export type PlanResult = PlannedReceipt | { readonly name: string; readonly refusal: Refusal };

/** What an item decides of a sale. */
interface Item {
  readonly code: string;
  readonly income: AccountId;
  readonly tax: TaxPart;
}

async function loadItems(db: Reading): Promise<Map<number, Item>> {
  const rows = await db
    .selectFrom('item')
    .innerJoin('tax_code', 'tax_code.id', 'item.tax_code_id')
    .select(['item.id', 'item.code', 'income_account_id', 'tax_code.code as tax', 'rate', 'tax_code.account_id'])
    .execute();
  return new Map(
    rows.map((row) => [
      row.id,
      {
        code: row.code,
        income: row.income_account_id,
        tax: { code: row.tax, rate: row.rate, account: row.account_id },
      },
    ]),
  );
}

type TaxedPart = TaxPart & { readonly weight: Minor };

/**
 * Plans the entries of receipts batch by batch, in the order given. What the receipts of one planning settle of their
 * invoices is carried along, so that two receipts for one invoice do not both take the same open amount.
 */
export class ReceiptPlanner {
  /** Paid so far per invoice, as far as this planning has touched it. */
  private readonly paid = new Map<number, Minor>();

  private constructor(
    private readonly accounts: ChannelAccounts,
    private readonly defaults: { readonly income: AccountId; readonly tax: TaxPart },
    private readonly items: ReadonlyMap<number, Item>,
    private readonly closedThrough: PlainDate | null,
  ) {}

  static async open(db: Reading): Promise<ReceiptPlanner> {
    const books = await db.selectFrom('books').select('closed_through').executeTakeFirstOrThrow();
    const channel = await db
      .selectFrom('channel')
      .innerJoin('tax_code', 'tax_code.id', 'channel.tax_code_id')
      .selectAll('channel')
      .select(['tax_code.code as tax', 'tax_code.rate as tax_rate', 'tax_code.account_id as tax_account'])
      .orderBy('channel.id')
      .executeTakeFirstOrThrow();
    const roles = await db
      .selectFrom('account')
      .select(['id', 'role'])
      .where('role', 'in', ['receivable', 'payer_credit'])
      .execute();
    const role = (name: string) => roles.find((account) => account.role === name)!.id;
    return new ReceiptPlanner(
      {
        channel: channel.name,
        clearing: channel.clearing_account_id,
        fees: channel.fee_account_id,
        refunds: channel.refund_account_id,
        receivable: role('receivable'),
        payerCredit: role('payer_credit'),
        tipsPayable: channel.tips_account_id,
      },
      {
        income: channel.income_account_id,
        tax: { code: channel.tax, rate: channel.tax_rate, account: channel.tax_account },
      },
      await loadItems(db),
      books.closed_through,
    );
  }

  /** Plans these receipts; each gives its entry or the reason why it cannot be posted. */
  async plan(db: Reading, ids: readonly number[]): Promise<PlanResult[]> {
    const receipts = await loadReceipts(db, ids);
    const taxed = await this.refundTaxes(
      db,
      receipts.filter((receipt) => receipt.kind === 'refund'),
    );
    return receipts.map((receipt) => this.planOne(receipt, taxed));
  }

  private planOne(receipt: LoadedReceipt, taxed: ReadonlyMap<number, TaxedPart[]>): PlanResult {
    const name = receipt.external_id;
    const date = receipt.book_date;
    if (this.closedThrough !== null && date <= this.closedThrough) {
      return { name, refusal: { code: 'period-closed', date, closedThrough: this.closedThrough } };
    }
    const { invoice_id: invoice } = receipt;
    if (receipt.kind === 'receipt' && invoice !== null && receipt.invoice_journal === null) {
      return { name, refusal: { code: 'invoice-not-posted', invoice: receipt.document, receipt: name } };
    }
    const purpose = this.purposeOf(receipt, taxed);
    const settles = settledBy(receipt, purpose);
    if (invoice !== null && settles > 0) {
      this.paid.set(invoice, add(this.paid.get(invoice) ?? receipt.invoice_paid!, settles));
    }
    return {
      id: receipt.id,
      name,
      date,
      gross: receipt.gross,
      revision: receipt.revision + 1,
      memo: memoOf(receipt, receipt.item === null ? undefined : this.items.get(receipt.item)),
      entry: receiptEntry(receipt, purpose, this.accounts),
      settles: invoice !== null && settles > 0 ? { invoice, amount: settles } : null,
    };
  }

  private purposeOf(receipt: LoadedReceipt, taxed: ReadonlyMap<number, TaxedPart[]>): ReceiptPurpose {
    if (receipt.kind === 'refund') {
      return { kind: 'refund', of: receipt.document || receipt.refund_of, taxed: taxed.get(receipt.id)! };
    }
    if (receipt.document !== '') {
      const open =
        receipt.invoice_id === null
          ? null
          : ((receipt.invoice_gross! - (this.paid.get(receipt.invoice_id) ?? receipt.invoice_paid!)) as Minor);
      return { kind: 'invoice', document: receipt.document, open };
    }
    const item = receipt.item === null ? undefined : this.items.get(receipt.item);
    if (item) return { kind: 'sale', item: item.code, income: item.income, tax: item.tax };
    return { kind: 'sale', item: null, ...this.defaults };
  }

  /**
   * How the original of each refund was taxed: by the lines of the invoice it names or its receipt paid, else by the
   * original receipt's item, else by its own item, else by the channel's tax code.
   */
  private async refundTaxes(db: Reading, refunds: readonly LoadedReceipt[]): Promise<Map<number, TaxedPart[]>> {
    const result = new Map<number, TaxedPart[]>();
    if (refunds.length === 0) return result;
    const { rows } = await sql<{
      refund: number;
      account: AccountId;
      code: string;
      rate: number;
      weight: Minor;
    }>`
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
    for (const { id } of refunds) {
      if (!result.has(id)) result.set(id, [{ ...this.defaults.tax, weight: 1 as Minor }]);
    }
    return result;
  }
}

function memoOf(receipt: LoadedReceipt, item: Item | undefined): string {
  const what = receipt.kind === 'refund' ? 'Refund' : 'Receipt';
  const about = receipt.document || item?.code || '';
  return [`${what} ${receipt.external_id}`, receipt.payer, about].filter(Boolean).join(', ');
}

async function loadReceipts(db: Reading, ids: readonly number[]): Promise<LoadedReceipt[]> {
  const { rows } = await sql<LoadedReceipt>`
    SELECT r.id, r.external_id, r.kind, r.book_date, r.gross, r.tip, r.fee, r.document, r.refund_of, r.revision,
           p.name AS payer, r.item_id AS item, inv.id AS invoice_id, inv.gross AS invoice_gross, inv.paid AS invoice_paid, inv.journal_id AS invoice_journal
    FROM json_each(${JSON.stringify(ids)}) AS wanted
    JOIN receipt r ON r.id = wanted.value
    LEFT JOIN payer p ON p.id = r.payer_id
    LEFT JOIN invoice inv ON inv.id = r.invoice_id
    WHERE r.journal_id IS NULL
    ORDER BY wanted.key
  `.execute(db);
  return rows;
}

/** What clearing holds of a posted receipt: gross less a fee that is stated. Minor units; a refund is negative. */
export function heldByClearing(receipt: { readonly gross: Minor; readonly fee: Minor | null }): Minor {
  return add(receipt.gross, negate(receipt.fee ?? (0 as Minor)));
}
