import type { Currency } from '../../core/money';
import { headerFingerprint } from '../table/header';
import { parseLooseInstant, unwrap, type DateOrder } from '../table/loose';
import type { RowSource } from '../table/rows';
import { dateOrderOf, decimalOf, fieldsByName, freeColumn, survey, type ColumnSeen } from '../table/survey';
import {
  OUT_WORDS,
  STATEMENT_FIELDS,
  STATEMENT_WORDS,
  TEXT_WORDS,
  type StatementField,
  type StatementProfile,
} from './profile';

/** What a bank's table looks like: a reading to start from, a sample of raw rows, and what only a person can say. */
export interface SniffedStatement {
  readonly header: readonly string[];
  readonly fingerprint: string;
  readonly profile: StatementProfile;
  readonly sample: readonly (readonly string[])[];
  readonly rows: number;
  /** Distinct values of the mark column, with how often each stands there. */
  readonly marks: readonly { readonly value: string; readonly count: number }[];
  /** Day and month cannot be told apart by any row: the order must be said. */
  readonly ambiguousDates: boolean;
}

const dayOf = (text: string, order: DateOrder) => parseLooseInstant(unwrap(text), order, 'UTC')?.getTime() ?? null;

/**
 * Looks a bank's table through and makes a first reading of it: columns by plain words in their names, by what stands in
 * them where no name helps; the order of its days by its first and last row. What takes part in no field and holds words is
 * the bank's text.
 */
export async function sniffStatement(
  rows: RowSource,
  delimiter: StatementProfile['delimiter'],
  books: { readonly currency: Currency; readonly account: string },
): Promise<SniffedStatement> {
  const table = await survey(rows);
  const { header, above, columns, sample, rows: count, first, last } = table;
  const byName = fieldsByName(header, STATEMENT_WORDS);
  const seen = (field: StatementField) =>
    byName[field] === undefined ? undefined : columns[header.indexOf(byName[field])];
  const taken = () => Object.values(byName);
  const free = (test: (column: ColumnSeen) => boolean) => freeColumn(table, taken(), test);
  byName.booked ??= byName.value ?? free((c) => c.dates + c.serials > c.filled / 2);
  if (byName.paidIn === undefined && byName.paidOut === undefined) {
    byName.amount ??= free((c) => c.amounts > c.filled / 2);
  }
  const named = header.filter((name) => !taken().includes(name) && TEXT_WORDS.test(headerFingerprint([name])));
  const texts =
    named.length > 0
      ? named
      : header
          .filter(
            (name, index) =>
              !taken().includes(name) &&
              columns[index]!.filled > 0 &&
              columns[index]!.numbers + columns[index]!.dates < columns[index]!.filled / 2,
          )
          .slice(0, 3);
  const { order, ambiguous } = dateOrderOf(seen('booked'));
  const decimal = decimalOf(
    (['amount', 'paidIn', 'paidOut', 'balance'] as const).flatMap((field) => seen(field) ?? []),
  );
  const marks = [...(seen('mark')?.values ?? [])].map(([value, n]) => ({ value: value.toLowerCase(), count: n }));
  const at = byName.booked === undefined ? -1 : header.indexOf(byName.booked);
  const [from, to] = [dayOf(first[at] ?? '', order), dayOf(last[at] ?? '', order)];
  return {
    header,
    fingerprint: headerFingerprint(header),
    profile: {
      columns: Object.fromEntries(STATEMENT_FIELDS.flatMap((f) => (byName[f] === undefined ? [] : [[f, byName[f]]]))),
      texts,
      delimiter,
      above,
      decimal,
      dateOrder: order,
      outs: marks.flatMap(({ value }) => (OUT_WORDS.test(value) ? [value] : [])),
      currency: books.currency,
      account: byName.account === undefined ? books.account : '',
      newestFirst: from !== null && to !== null && from > to,
      encoding: 'auto',
    },
    sample,
    rows: count,
    marks,
    ambiguousDates: ambiguous,
  };
}
