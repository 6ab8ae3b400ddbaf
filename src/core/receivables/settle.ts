import type { PlainDate } from '../calendar';
import { minor, subtract, ZERO, type Minor } from '../money';

/** An invoice that money can be put to. `open` is in minor units. */
export interface OpenInvoice {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly due: PlainDate;
  readonly open: Minor;
}

export interface Share {
  readonly invoice: number;
  readonly amount: Minor;
}

const oldestFirst = (a: OpenInvoice, b: OpenInvoice) =>
  a.due === b.due ? (a.issued === b.issued ? a.id - b.id : a.issued < b.issued ? -1 : 1) : a.due < b.due ? -1 : 1;

/** Puts money to invoices in this order, each until it is settled; what is over is given back. */
export function inOrder(money: Minor, invoices: readonly OpenInvoice[]): { shares: Share[]; over: Minor } {
  let over = money;
  const shares: Share[] = [];
  for (const { id, open } of invoices) {
    const amount = minor(Math.min(over, open));
    if (amount <= ZERO) continue;
    shares.push({ invoice: id, amount });
    over = subtract(over, amount);
  }
  return { shares, over };
}

/** Puts money to the invoices that are due longest. */
export function oldest(money: Minor, invoices: readonly OpenInvoice[]): { shares: Share[]; over: Minor } {
  return inOrder(money, [...invoices].sort(oldestFirst));
}

/** Letters and digits of a number, in capitals: how a payer may have written it. */
const key = (text: string) => text.toUpperCase().replace(/[^A-Z0-9]/g, '');

/** Puts money to the invoices whose numbers stand in a text, in the order they stand there. */
export function byNumber(
  money: Minor,
  invoices: readonly OpenInvoice[],
  text: string,
): { shares: Share[]; over: Minor } {
  const within = key(text);
  const named = invoices
    .map((invoice) => ({ invoice, number: key(invoice.number) }))
    // A number that is part of a longer one that is named too is not meant.
    .filter(
      ({ number }, _index, all) =>
        number !== '' &&
        within.includes(number) &&
        !all.some((other) => other.number !== number && other.number.includes(number) && within.includes(other.number)),
    )
    .sort((a, b) => within.indexOf(a.number) - within.indexOf(b.number));
  return inOrder(
    money,
    named.map(({ invoice }) => invoice),
  );
}
