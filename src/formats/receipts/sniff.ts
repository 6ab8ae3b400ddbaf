import type { Currency } from '../../core/money';
import { headerFingerprint } from '../table/header';
import { dateOrderOf, decimalOf, fieldsByName, freeColumn, survey, type ColumnSeen } from '../table/survey';
import type { RowSource } from '../table/rows';
import { HEADER_WORDS, RECEIPT_FIELDS, type ReceiptField, type ReceiptProfile } from './profile';

/** What the file looks like: a reading to start from, a sample of raw rows, and what only a person can say. */
export interface Sniffed {
  readonly header: readonly string[];
  readonly fingerprint: string;
  readonly profile: ReceiptProfile;
  readonly sample: readonly (readonly string[])[];
  readonly rows: number;
  /** Distinct values of the kind column, with how often each stands there. */
  readonly kinds: readonly { readonly value: string; readonly count: number }[];
  /** Day and month cannot be told apart by any row: the order must be said. */
  readonly ambiguousDates: boolean;
}

const KIND_WORDS = {
  refunds: /refund|return|gutschrift|remboursement/i,
  chargebacks: /charge ?-?back|dispute/i,
  payouts: /pay ?-?out|settlement|transfer to bank|bank transfer out|auszahlung/i,
  skipped: /^(fee|fees|total|balance|adjustment)$/i,
  tenders: /^(tenders?|paid by|payments?|means|zahlung)$/i,
  tips: /^(tips?|gratuit(y|ies)|trinkgeld)$/i,
};

/**
 * Looks through a whole file of receipts and makes a first reading of it. Columns are known by plain words in their names,
 * and by what stands in them where no name helps.
 */
export async function sniffReceipts(
  rows: RowSource,
  delimiter: ReceiptProfile['delimiter'],
  books: { readonly zone: string; readonly currency: Currency },
): Promise<Sniffed> {
  const seenTable = await survey(rows);
  const { header: names, above, columns, sample, rows: count } = seenTable;
  const byName = fieldsByName(names, HEADER_WORDS);
  const seen = (field: ReceiptField) =>
    byName[field] === undefined ? undefined : columns[names.indexOf(byName[field])];
  // Where no name helps, the first column of dates and the first of amounts.
  const free = (test: (column: ColumnSeen) => boolean) => freeColumn(seenTable, Object.values(byName), test);
  byName.time ??= free((c) => c.dates + c.serials > c.filled / 2);
  if (byName.paidIn === undefined && byName.net === undefined) byName.gross ??= free((c) => c.numbers > c.filled / 2);
  const decimal = decimalOf(
    (['gross', 'net', 'fee', 'paidIn', 'paidOut'] as const).flatMap((field) => seen(field) ?? []),
  );
  const { order, ambiguous } = dateOrderOf(seen('time'));
  const kinds = [...(seen('kind')?.values ?? [])].map(([value, n]) => ({ value: value.toLowerCase(), count: n }));
  const fee = seen('fee');
  const ofKind = (of: keyof typeof KIND_WORDS) =>
    kinds.flatMap(({ value }) => (KIND_WORDS[of].test(value) ? [value] : []));
  const tenders = ofKind('tenders');
  // Ways of paying in rows of their own beside what was sold: a till's day.
  const shape = tenders.length > 0 && kinds.length > tenders.length ? 'till-days' : 'receipts';
  return {
    header: names,
    fingerprint: headerFingerprint(names),
    profile: {
      columns: Object.fromEntries(RECEIPT_FIELDS.flatMap((f) => (byName[f] === undefined ? [] : [[f, byName[f]]]))),
      delimiter,
      above,
      decimal,
      dateOrder: order,
      zone: books.zone,
      currency: books.currency,
      feeSign: fee && fee.negatives * 2 > fee.amounts ? 'minus' : 'plus',
      refunds: ofKind('refunds'),
      payouts: ofKind('payouts'),
      skipped: ofKind('skipped'),
      chargebacks: ofKind('chargebacks'),
      shape,
      tenders: shape === 'till-days' ? tenders : [],
      tips: shape === 'till-days' ? ofKind('tips') : [],
      taxIn: 'included',
      encoding: 'auto',
    },
    sample,
    rows: count,
    kinds,
    ambiguousDates: ambiguous,
  };
}
