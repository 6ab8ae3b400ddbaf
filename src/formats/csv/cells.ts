import { parsePlainDate, type PlainDate } from '../../core/calendar';
import { isCurrencyCode, parseAmount, type Currency, type Minor } from '../../core/money';
import type { Finding, FindingCode } from '../finding';

/** A record that cannot be taken: thrown while one row is read, caught by its reader, never seen outside. */
export class RecordRefused extends Error {
  constructor(readonly finding: Finding) {
    super(finding.code);
  }
}

export function refuseRecord(code: FindingCode, line: number, detail: Partial<Finding> = {}): never {
  throw new RecordRefused({ ...detail, scope: 'record', code, line });
}

/** Reads the cells of one row; each reading refuses the record with its line, column and what stands there. */
export class Cells<C extends string> {
  constructor(
    readonly line: number,
    private readonly fields: readonly string[],
    private readonly at: Readonly<Record<C, number>>,
  ) {}

  text(column: C): string {
    const position = this.at[column];
    return position < 0 ? '' : this.fields[position]!.trim();
  }

  needed(column: C): string {
    return this.text(column) || refuseRecord('missing-value', this.line, { field: column });
  }

  currency(column: C): Currency {
    const text = this.needed(column).toUpperCase();
    return isCurrencyCode(text) ? text : refuseRecord('bad-currency', this.line, { field: column, found: text });
  }

  amount(column: C, currency: Currency): Minor {
    return this.optionalAmount(column, currency) ?? refuseRecord('missing-value', this.line, { field: column });
  }

  optionalAmount(column: C, currency: Currency): Minor | null {
    const text = this.text(column);
    if (text === '') return null;
    const parsed = parseAmount(text, currency);
    return parsed.ok
      ? parsed.minor
      : refuseRecord('bad-amount', this.line, { field: column, found: text.slice(0, 60), expected: parsed.fault });
  }

  date(column: C): PlainDate {
    const text = this.needed(column);
    return parsePlainDate(text) ?? refuseRecord('bad-date', this.line, { field: column, found: text.slice(0, 60) });
  }

  refuse(code: FindingCode, detail: Partial<Finding> = {}): never {
    return refuseRecord(code, this.line, detail);
  }
}

/** Reads one record, or adds the finding that refuses it, with the record's id or number as its subject. */
export function recordOr<T>(subject: string, read: () => T | null, findings: Finding[]): T | null {
  try {
    return read();
  } catch (error) {
    if (!(error instanceof RecordRefused)) throw error;
    findings.push(subject === '' ? error.finding : { ...error.finding, subject: subject.slice(0, 80) });
    return null;
  }
}
