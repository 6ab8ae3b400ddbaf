import type { PlainDate } from '../calendar';
import { minor, subtract, sum, ZERO, type Minor } from '../money';
import { askedOn, type EarlyPayment } from '../receivables';
import type { Explanation, ProposedPart, Reason } from './proposal';

/** An invoice that something is open of. */
export interface OpenInvoice {
  readonly id: number;
  readonly payer: number;
  readonly number: string;
  /** The number as compared. */
  readonly key: string;
  readonly due: PlainDate;
  /** Minor units. */
  readonly open: Minor;
  readonly early: EarlyPayment | null;
}

/** What a payment of a day settles an invoice with: what is open, or that less the discount. */
export interface Way {
  readonly pays: Minor;
  readonly discount: Minor;
}

function waysOf(invoice: OpenInvoice, date: PlainDate): Way[] {
  const whole = { pays: invoice.open, discount: ZERO };
  if (invoice.early === null) return [whole];
  const { asked, discount } = askedOn(invoice.open, invoice.early, date);
  return discount > 0 ? [{ pays: asked, discount }, whole] : [whole];
}

const MOST_NAMED = 12;

/** How invoices come to an amount, each paid whole or with its discount; discounts are tried first. Null where they do not. */
export function settling(invoices: readonly OpenInvoice[], amount: Minor, date: PlainDate): readonly Way[] | null {
  if (invoices.length > MOST_NAMED) return null;
  const go = (at: number, left: number): Way[] | null => {
    if (at === invoices.length) return left === 0 ? [] : null;
    for (const way of waysOf(invoices[at]!, date)) {
      const rest = way.pays <= left ? go(at + 1, left - way.pays) : null;
      if (rest) return [way, ...rest];
    }
    return null;
  };
  return go(0, amount);
}

/** The oldest first. */
export const byDue = (a: OpenInvoice, b: OpenInvoice) => a.due.localeCompare(b.due) || a.id - b.id;

/** Invoices, each paid in its way, as one explanation. */
export function explanation(
  invoices: readonly OpenInvoice[],
  ways: readonly Way[],
  reasons: readonly Reason[],
): Explanation {
  const early = sum(ways.map(({ discount }) => discount));
  return {
    parts: invoices.map(({ id }, index) => ({ kind: 'invoice', id, amount: ways[index]!.pays })),
    reasons: [
      ...reasons,
      { kind: 'equal-to-the-cent' },
      ...(early > 0 ? [{ kind: 'taken-early', amount: early } as const] : []),
    ],
  };
}

/** One invoice that is open by just this amount. */
export function ofAmount(invoice: OpenInvoice, amount: Minor, date: PlainDate): Explanation {
  const ways = settling([invoice], amount, date) ?? [{ pays: amount, discount: ZERO }];
  return explanation([invoice], ways, [{ kind: 'amount-of-one', number: invoice.number }]);
}

/** Lays an amount on invoices in their order, each as far as it goes. */
export function filled(invoices: readonly OpenInvoice[], amount: Minor): ProposedPart[] {
  const parts: ProposedPart[] = [];
  let left = amount;
  for (const { id, open } of invoices) {
    const part = minor(Math.min(left, open));
    if (part > 0) parts.push({ kind: 'invoice', id, amount: part });
    left = subtract(left, part);
  }
  return parts;
}
