import { parseThousandths, type Currency, type Minor } from '../../core/money';
import { refuseRecord } from '../csv/cells';
import type { Finding } from '../finding';
import { parseLooseAmount, parseLooseInstant, unwrap } from '../table/loose';
import type { ReceiptField, ReceiptProfile } from './profile';

/** The cells of one row by field; each reading refuses the row with its line, column and what stands there. */
export class Row {
  constructor(
    readonly line: number,
    private readonly fields: readonly string[],
    private readonly at: Readonly<Partial<Record<ReceiptField, number>>>,
    private readonly profile: ReceiptProfile,
  ) {}

  text(field: ReceiptField): string {
    const position = this.at[field];
    return position === undefined ? '' : unwrap(this.fields[position] ?? '');
  }

  get isEmpty(): boolean {
    return this.fields.every((field) => field.trim() === '');
  }

  /** A line of sums under the rows: it has no date, and says what it is or has no id. */
  get isTotal(): boolean {
    if (/\d/.test(this.text('time'))) return false;
    return (
      this.fields.some((field) => /^(grand )?(sub)?totals?\b|^sum\b|^summe\b/i.test(field.trim())) ||
      this.text('id') === ''
    );
  }

  refuse(code: Finding['code'], field: ReceiptField, detail: Partial<Finding> = {}): never {
    refuseRecord(code, this.line, { field: this.profile.columns[field] ?? field, ...detail });
  }

  amount(field: ReceiptField, currency: Currency): Minor | null {
    const text = this.text(field);
    if (text === '') return null;
    if (text.startsWith('=')) this.refuse('formula', field, { found: text.slice(0, 60) });
    const parsed = parseLooseAmount(text, currency, this.profile.decimal);
    return parsed.ok
      ? parsed.minor
      : this.refuse('bad-amount', field, { found: text.slice(0, 60), expected: parsed.fault });
  }

  time(): Date {
    const date = this.text('time');
    if (date === '') this.refuse('missing-value', 'time');
    const clock = this.text('clock');
    const text = clock === '' ? date : `${date} ${clock}`;
    const { dateOrder, zone } = this.profile;
    return parseLooseInstant(text, dateOrder, zone) ?? this.refuse('bad-time', 'time', { found: text.slice(0, 60) });
  }

  /** Thousandths; a row that says none is one. */
  units(): number {
    const text = this.text('units');
    if (text === '') return 1000;
    const plain = this.profile.decimal === ',' ? text.replace(/\./g, '').replace(',', '.') : text.replace(/,/g, '');
    return parseThousandths(plain) ?? this.refuse('bad-amount', 'units', { found: text.slice(0, 60) });
  }
}
