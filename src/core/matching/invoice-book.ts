import type { PlainDate } from '../calendar';
import { subtract, sum, ZERO, type Minor } from '../money';
import { byDue, explanation, filled, ofAmount, settling, type OpenInvoice } from './invoice-ways';
import type { NameFinder } from './names';
import { oneEditAway } from './near';
import type { Certainty, Explanation, Proposal, Reason } from './proposal';
import { MOST_FOR_ONLY, subsetsTo } from './subsets';

/** Money that came in, as far as it tells what it is for. */
export interface Payment {
  readonly date: PlainDate;
  /** Minor units, above zero. */
  readonly amount: Minor;
  /** Where a number could stand in its text. */
  readonly keys: ReadonlySet<string>;
  /** All words in which a payer may be named. */
  readonly text: string;
}

/** A number without the letters before it, as people write it; what is shorter than three digits names nothing. */
const bareNumber = ({ key }: OpenInvoice) => /\d{3,}$/.exec(key)?.[0] ?? '-';

const shapeOf = (key: string) => key.replace(/\d/g, '#');

/** Whether the text has another number of the kind of those that are named, which is no open invoice's. */
function hasUnknownNumber({ keys }: Payment, named: readonly OpenInvoice[]): boolean {
  const shapes = new Set(named.map(({ key }) => shapeOf(key)));
  return [...keys].some((key) => shapes.has(shapeOf(key)) && !named.some((invoice) => invoice.key === key));
}

/** What a payment is made of, whichever line it is of. */
export type Found = Omit<Proposal, 'line'>;
export const found = (
  certainty: Certainty,
  laid: Explanation | null,
  reasons: readonly Reason[] = [],
  others: readonly Explanation[] = [],
): Found => ({ certainty, laid, reasons, others });

/** What open invoices are looked up by. */
export class InvoiceBook {
  private readonly byKey = new Map<string, OpenInvoice[]>();
  private readonly byPayer = new Map<number, OpenInvoice[]>();
  private readonly byAmount = new Map<number, OpenInvoice[]>();

  constructor(
    invoices: readonly OpenInvoice[],
    private readonly names: NameFinder,
  ) {
    const put = <K>(map: Map<K, OpenInvoice[]>, key: K, invoice: OpenInvoice) => {
      const list = map.get(key);
      if (list) list.push(invoice);
      else map.set(key, [invoice]);
    };
    for (const invoice of [...invoices].sort(byDue)) {
      put(this.byKey, invoice.key, invoice);
      put(this.byPayer, invoice.payer, invoice);
      put(this.byAmount, invoice.open, invoice);
    }
  }

  /** What a payment settles (stage 4): by numbers in its text, by the payer's name, else what has the same amount. */
  explain(payment: Payment): Found {
    const named = [...payment.keys].flatMap((key) => this.byKey.get(key) ?? []).sort(byDue);
    if (named.length > 0) return this.byNumbers(payment, [...new Set(named)]);
    const payers = this.names.find(payment.text).filter(({ payer }) => this.byPayer.has(payer));
    const [payer] = payers;
    if (payers.length === 1) return this.byName(payment, payer!.name, this.byPayer.get(payer!.payer)!);
    return this.byAmountAlone(payment);
  }

  private byNumbers(payment: Payment, named: readonly OpenInvoice[]): Found {
    const { amount, date } = payment;
    const said: Reason = { kind: 'numbers-in-text', numbers: named.map(({ number }) => number) };
    const payers = new Set(named.map(({ payer }) => payer));
    // A number that is somebody else's than the payer who is named may be a slip of the pen.
    const others = this.names.find(payment.text).filter(({ payer }) => this.byPayer.has(payer));
    const foreign = others.length > 0 && !others.some(({ payer }) => payers.has(payer));
    const ways = settling(named, amount, date);
    if (ways) return found(foreign ? 'probable' : 'proven', explanation(named, ways, [said]));
    const [payer] = payers;
    const more = payers.size === 1 ? this.withNearNumbers(payment, [said], this.byPayer.get(payer!)!, named) : null;
    if (more) return more;
    const open = sum(named.map((invoice) => invoice.open));
    if (amount > open) {
      const over: Reason = { kind: 'over', amount: subtract(amount, open) };
      const way = { parts: filled(named, amount), reasons: [said, over] };
      // Another number that is no open invoice's may be what the rest is for; of two payers nobody can say whose it is.
      return foreign || payers.size > 1 || hasUnknownNumber(payment, named)
        ? found('open', null, [said, over], [way])
        : found('probable', way);
    }
    // Some of those that are named may be what it pays, whole; else it pays one in part.
    const whole = named.filter((invoice) => settling([invoice], amount, date) !== null);
    if (whole.length === 1) {
      return found('probable', explanation(whole, settling(whole, amount, date)!, [said]));
    }
    const laid = { parts: filled(named, amount), reasons: [said, { kind: 'in-part', open } as const] };
    if (foreign) return found('open', null, [said], [laid]);
    // Part of one invoice, where one of a number next to it has the whole amount: the number may be a slip of the pen.
    const slips = (this.byAmount.get(amount) ?? []).filter(({ key }) =>
      named.some((invoice) => oneEditAway(invoice.key, key)),
    );
    if (slips.length > 0) {
      return found('open', null, [said], [laid, ...slips.map((invoice) => ofAmount(invoice, amount, date))]);
    }
    return found(named.length === 1 ? 'probable' : 'open', laid);
  }

  private byName(payment: Payment, name: string, owed: readonly OpenInvoice[]): Found {
    const { amount, date } = payment;
    const said: Reason = { kind: 'name-in-text', name };
    const singles = owed.flatMap((invoice) => {
      const ways = settling([invoice], amount, date);
      return ways ? [explanation([invoice], ways, [said, { kind: 'amount-of-one', number: invoice.number }])] : [];
    });
    const numbered = this.withNearNumbers(payment, [said], owed, []);
    if (numbered) return numbered;
    // A number of theirs that stands there speaks against one of another number that only has the amount.
    const meant = owed.filter((invoice) => payment.keys.has(bareNumber(invoice)));
    if (meant.length > 0) {
      const way = {
        parts: filled(meant, amount),
        reasons: [said, { kind: 'numbers-in-text', numbers: meant.map(({ number }) => number) } as const],
      };
      return found('open', null, [said], [way, ...singles]);
    }
    const sets =
      subsetsTo(
        owed.map((invoice) => invoice.open),
        amount,
      ) ?? [];
    const options = sets.map((set) => {
      const invoices = set.map((at) => owed[at]!);
      return explanation(
        invoices,
        invoices.map(({ open }) => ({ pays: open, discount: ZERO })),
        [said],
      );
    });
    const several = options.filter(({ parts }) => parts.length > 1);
    if (singles.length === 1 && several.length === 0) return found('probable', singles[0]!);
    if (singles.length === 1)
      return found(
        'open',
        null,
        [said, { kind: 'several-fit', count: 1 + several.length, searched: owed.length }],
        [...singles, ...several],
      );
    if (singles.length > 1)
      return found(
        'open',
        null,
        [said, { kind: 'several-fit', count: singles.length, searched: owed.length }],
        singles,
      );
    const prefix = owed.findIndex((_, at) => settling(owed.slice(0, at + 1), amount, date) !== null);
    if (prefix >= 0) {
      const oldest = owed.slice(0, prefix + 1);
      const count = oldest.length;
      const how: Reason = count === owed.length ? { kind: 'all-open', count } : { kind: 'oldest-first', count };
      return found('probable', explanation(oldest, settling(oldest, amount, date)!, [said, how]));
    }
    if (options.length === 1 && owed.length <= MOST_FOR_ONLY) {
      const only = {
        ...options[0]!,
        reasons: [...options[0]!.reasons, { kind: 'no-other-of', searched: owed.length } as const],
      };
      return found('probable', only);
    }
    if (options.length > 0) {
      return found(
        'open',
        null,
        [said, { kind: 'several-fit', count: options.length, searched: owed.length }],
        options,
      );
    }
    const open = sum(owed.map((invoice) => invoice.open));
    return found('none', null, [{ kind: 'owes-otherwise', name, count: owed.length, open }]);
  }

  /**
   * Of one payer's invoices: those that are named, with those whose numbers stand in the text without their letters, or one letter
   * off, where together they come to the amount. A number that is near to several of theirs is none of them.
   */
  private withNearNumbers(
    { amount, date, keys }: Payment,
    said: readonly Reason[],
    owed: readonly OpenInvoice[],
    named: readonly OpenInvoice[],
  ): Found | null {
    const plain = owed.filter((invoice) => !named.includes(invoice) && keys.has(bareNumber(invoice)));
    const known = [...named, ...plain];
    const near = [...keys].flatMap((key) => {
      if (known.some((invoice) => invoice.key === key || bareNumber(invoice) === key)) return [];
      const close = owed.filter(
        (invoice) =>
          !known.includes(invoice) && (oneEditAway(key, invoice.key) || oneEditAway(key, bareNumber(invoice))),
      );
      return close.length === 1 ? [{ key, invoice: close[0]! }] : [];
    });
    const one = new Map(near.map(({ key, invoice }) => [invoice, key]));
    const chosen = [...known, ...one.keys()].sort(byDue);
    if (chosen.length === named.length) return null;
    const ways = settling(chosen, amount, date);
    if (!ways) return null;
    const numbers: Reason[] =
      plain.length > 0 ? [{ kind: 'numbers-in-text', numbers: plain.map(({ number }) => number) }] : [];
    const nearly = [...one].map(([{ number }, key]): Reason => ({
      kind: 'nearly-in-text',
      said: key,
      reference: number,
    }));
    return found('probable', explanation(chosen, ways, [...said, ...numbers, ...nearly]));
  }

  /** An amount alone names nobody: it is shown, and nothing is laid. */
  private byAmountAlone({ amount, date }: Payment): Found {
    const equal = (this.byAmount.get(amount) ?? []).slice(0, 10);
    if (equal.length === 0) return found('none', null);
    const options = equal.map((invoice) => ofAmount(invoice, amount, date));
    return found('open', null, [{ kind: 'several-fit', count: equal.length, searched: equal.length }], options);
  }
}
