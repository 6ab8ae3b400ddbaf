import type { PlainDate } from '../../core/calendar';
import { add, minor, writeAmount, type Currency, type Minor } from '../../core/money';
import { refuseFile } from '../finding';

export interface StatementHead {
  readonly kind: 'statement';
  readonly reference: string;
  /** IBAN, or the account number where the file has only that; spaces taken out. */
  readonly account: string;
  readonly currency: Currency;
  /** Balance before the first line, minor units; negative is overdrawn. */
  readonly opening: Minor;
}

export interface StatementLineRecord {
  readonly kind: 'line';
  readonly line: number;
  readonly bookDate: PlainDate;
  readonly valueDate: PlainDate;
  /** Minor units; positive came in, negative went out. */
  readonly amount: Minor;
  /** The bank's whole text, nothing cut. */
  readonly text: string;
  readonly counterparty: string;
  readonly reference: string;
}

export interface StatementEnd {
  readonly kind: 'end';
  readonly closing: Minor;
  readonly from: PlainDate | null;
  readonly to: PlainDate | null;
}

/** A statement file as it is read: for each statement its head, its lines and its end, in this order. */
export type StatementRecord = StatementHead | StatementLineRecord | StatementEnd;

/** Adds a statement's lines up and refuses the file, with both figures, where they do not lead to its closing balance. */
export class FootingCheck {
  private balance: Minor;
  private first: PlainDate | null = null;
  private last: PlainDate | null = null;

  constructor(
    opening: Minor,
    private readonly currency: Currency,
  ) {
    this.balance = opening;
  }

  take(line: StatementLineRecord): void {
    this.balance = add(this.balance, line.amount);
    if (this.first === null || line.bookDate < this.first) this.first = line.bookDate;
    if (this.last === null || line.bookDate > this.last) this.last = line.bookDate;
  }

  get running(): Minor {
    return this.balance;
  }

  end(closing: Minor, at: number | null): StatementEnd {
    if (this.balance !== closing) {
      refuseFile('does-not-foot', at, {
        expected: writeAmount(minor(this.balance), this.currency),
        found: writeAmount(closing, this.currency),
      });
    }
    return { kind: 'end', closing, from: this.first, to: this.last };
  }
}

/** An account number as compared: no spaces, upper case. */
export function accountKey(text: string): string {
  return text.replace(/\s+/g, '').toUpperCase();
}
