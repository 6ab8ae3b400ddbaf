import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId, DiscountShare } from '@/core/ledger';
import type { BasisPoints, Minor } from '@/core/money';
import { askedOn, discountOf, discountTaken, type DiscountPart, type EarlyPayment } from '@/core/receivables';
import type { Reading } from '../store';

interface TaxOf {
  readonly account: AccountId;
  readonly code: string;
  readonly rate: BasisPoints;
}

/** What an invoice allows for paying early, and on which accounts that lands. */
export class EarlyInvoice {
  constructor(
    private readonly early: EarlyPayment,
    private readonly taxes: ReadonlyMap<number, TaxOf>,
  ) {}

  /** The terms themselves. */
  get terms(): EarlyPayment {
    return this.early;
  }

  /** What is asked for on a day, and what may be taken off then; minor units. */
  asked(open: Minor, day: PlainDate) {
    return askedOn(open, this.early, day);
  }

  /** The whole discount by tax, whoever takes it and when. */
  shares(): readonly DiscountShare[] {
    return discountOf(this.early).parts.map(({ taxCode, net, tax }) => {
      const { account, code, rate } = this.taxes.get(taxCode)!;
      return { net, tax, taxAccount: account, taxCode: code, rate };
    });
  }

  /** The shares that a payment of a day takes off; undefined where it takes none. */
  taken(payment: Minor, open: Minor, day: PlainDate): readonly DiscountShare[] | undefined {
    return discountTaken(payment, open, this.early, day) > 0 ? this.shares() : undefined;
  }
}

/** The invoices among these that allow a discount for paying early. */
export async function earlyPayments(
  db: Reading,
  invoices: readonly number[],
): Promise<ReadonlyMap<number, EarlyInvoice>> {
  if (invoices.length === 0) return new Map();
  const { rows } = await sql<DiscountPart & { invoice: number; off: BasisPoints; until: PlainDate | null } & TaxOf>`
    SELECT i.id AS invoice, i.discount_rate AS off, i.discount_until AS until, l.tax_code_id AS taxCode, t.code, l.rate,
      t.account_id AS account, sum(l.net) AS net, sum(l.tax) AS tax
    FROM invoice i JOIN invoice_line l ON l.invoice_id = i.id JOIN tax_code t ON t.id = l.tax_code_id
    WHERE i.id IN (SELECT value FROM json_each(${JSON.stringify(invoices)})) AND i.discount_rate > 0 AND i.credited = 0
    GROUP BY i.id, l.tax_code_id ORDER BY i.id, l.tax_code_id
  `.execute(db);
  const found = new Map<number, { early: EarlyPayment & { taxed: DiscountPart[] }; taxes: Map<number, TaxOf> }>();
  for (const { invoice, off, until, taxCode, net, tax, account, code, rate } of rows) {
    const one = found.get(invoice) ?? {
      early: { rate: off, until, taxed: [] as DiscountPart[] },
      taxes: new Map<number, TaxOf>(),
    };
    one.early.taxed.push({ taxCode, net, tax });
    one.taxes.set(taxCode, { account, code, rate });
    found.set(invoice, one);
  }
  return new Map([...found].map(([invoice, { early, taxes }]) => [invoice, new EarlyInvoice(early, taxes)]));
}
