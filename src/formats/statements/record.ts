import type { PlainDate } from '../../core/calendar';
import { add, minor, writeAmount, type Currency, type Minor } from '../../core/money';
import { refuseFile } from '../finding';

export interface StatementHead {
  readonly kind: 'statement';
  readonly reference: string;
  /** IBAN, or the account number where the file has only that; spaces taken out. */
  readonly account: string;
  readonly currency: Currency;
  /** Balance before the first line, minor units; negative is overdrawn. Null where the format does not tell it. */
  readonly opening: Minor | null;
}

/** One payment of a line that the bank booked as a sum of several. */
export interface LineDetail {
  /** Minor units, signed as its line. */
  readonly amount: Minor;
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
}

export interface StatementLineRecord {
  readonly kind: 'line';
  /** As in its statement's head. */
  readonly account: string;
  readonly line: number;
  readonly bookDate: PlainDate;
  readonly valueDate: PlainDate;
  /** Minor units; positive came in, negative went out. */
  readonly amount: Minor;
  /** The bank's whole text, nothing cut. */
  readonly text: string;
  readonly counterparty: string;
  /** What payer and payee know it by: end-to-end id, mandate, else the bank's own. */
  readonly reference: string;
  /** The bank's own id of the line within its account, where it gives one; banks repeat them. */
  readonly bankId: string;
  /** Empty, or several that come to the amount. */
  readonly details: readonly LineDetail[];
}

export interface StatementEnd {
  readonly kind: 'end';
  /** As in the head of the statement that ends: of each account one is open at a time. */
  readonly account: string;
  /** Set where it is known only now, as in a table whose newest line comes first. */
  readonly opening?: Minor | null;
  /** Null where the format does not tell it. */
  readonly closing: Minor | null;
  readonly from: PlainDate | null;
  readonly to: PlainDate | null;
}

/**
 * A statement file as it is read: for each statement its head, its lines and its end, in this order; statements
 * of several accounts may be mixed. */
export type StatementRecord = StatementHead | StatementLineRecord | StatementEnd;

/**
 * Adds a statement's lines up and refuses the file, with both figures, where they do not lead from its opening to its closing
 * balance. A statement that lacks one of the two cannot be checked so.
 */
export class FootingCheck {
  private moved = minor(0);
  private first: PlainDate | null = null;
  private last: PlainDate | null = null;

  constructor(
    private readonly opening: Minor | null,
    private readonly currency: Currency,
    private readonly account: string,
  ) {}

  take(line: StatementLineRecord): void {
    this.moved = add(this.moved, line.amount);
    if (this.first === null || line.bookDate < this.first) this.first = line.bookDate;
    if (this.last === null || line.bookDate > this.last) this.last = line.bookDate;
  }

  /** The balance after the lines so far; null where the opening is not known. */
  get running(): Minor | null {
    return this.opening === null ? null : add(this.opening, this.moved);
  }

  end(closing: Minor | null, at: number | null): StatementEnd {
    const { running } = this;
    if (running !== null && closing !== null && running !== closing) {
      refuseFile('does-not-foot', at, {
        expected: writeAmount(running, this.currency),
        found: writeAmount(closing, this.currency),
      });
    }
    return { kind: 'end', account: this.account, closing, from: this.first, to: this.last };
  }
}

/** An account number as compared: letters and digits only, upper case. */
export function accountKey(text: string): string {
  return text.replace(/[\s.-]+/g, '').toUpperCase();
}

/** The shortest account number that is taken for the end of an IBAN. */
const SHORTEST_NUMBER = 6;

/**
 * Whether an account named in a file is the one with this IBAN: the same; or with the bank's code before a slash, or the
 * currency behind it; or the account number that the IBAN ends in, leading noughts or not.
 */
export function isAccount(iban: string, named: string): boolean {
  const ours = accountKey(iban);
  const bare = accountKey(named.slice(named.lastIndexOf('/') + 1));
  return [accountKey(named), bare, bare.replace(/[A-Z]{3}$/, '')].some((key) => {
    if (key === ours) return key !== '';
    const number = key.replace(/^0+/, '');
    return number.length >= SHORTEST_NUMBER && /^\d+$/.test(number) && ours.endsWith(number);
  });
}
