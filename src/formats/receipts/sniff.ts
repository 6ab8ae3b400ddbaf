import type { Currency } from '../../core/money';
import { CsvTokenizer, type CsvRow } from '../csv/tokenizer';
import { FileRefused, refuseFile, type ByteSource } from '../finding';
import { decodeLenient } from '../text';
import { datePieces, isSerialDate, unwrap, type DateOrder, type DecimalMark } from '../table/loose';
import type { RowSource } from '../table/rows';
import {
  DELIMITERS,
  HEADER_WORDS,
  headerFingerprint,
  RECEIPT_FIELDS,
  type ReceiptField,
  type ReceiptProfile,
} from './profile';

/** Characters looked at to tell the delimiter, and rows shown as a sample. */
const HEAD = 64 * 1024;
const SAMPLE = 8;
/** Rows above the header that titles may take. */
const MOST_ABOVE = 30;

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

/** The delimiter under which most of the first lines have the same number of fields. */
export async function sniffDelimiterOf(source: ByteSource): Promise<ReceiptProfile['delimiter']> {
  let head = '';
  for await (const chunk of decodeLenient(source)) {
    head += chunk.text;
    if (head.length >= HEAD) break;
  }
  if (head.trim() === '') refuseFile('empty-file', null);
  let best: { delimiter: ReceiptProfile['delimiter']; score: number } = { delimiter: ',', score: 0 };
  for (const delimiter of DELIMITERS) {
    const widths = new Map<number, number>();
    for (const { fields } of rowsOfHead(head, delimiter))
      widths.set(fields.length, (widths.get(fields.length) ?? 0) + 1);
    for (const [width, count] of widths) {
      // A wider table wins only by as many lines as agree on it.
      const score = width > 1 ? count * Math.min(width, 12) : 0;
      if (score > best.score) best = { delimiter, score };
    }
  }
  return best.delimiter;
}

function rowsOfHead(head: string, delimiter: string): CsvRow[] {
  try {
    return new CsvTokenizer(delimiter).feed(head.slice(0, head.lastIndexOf('\n') + 1) || `${head}\n`);
  } catch (error) {
    if (error instanceof FileRefused) return [];
    throw error;
  }
}

const isNumber = (text: string) => /\d/.test(text) && /^[-+(]?[\p{Sc}\s]*[\d.,'’\s]+[\p{Sc}\s]*\)?-?$/u.test(text);

/** A header names its columns: mostly filled, no figures, and more cells than the titles above it. */
function looksLikeHeader(fields: readonly string[], width: number): boolean {
  const filled = fields.map((field) => field.trim()).filter(Boolean);
  return (
    filled.length >= Math.max(2, Math.ceil(width / 2)) &&
    filled.every((text) => !isNumber(text) && datePieces(text) === null)
  );
}

interface ColumnSeen {
  numbers: number;
  /** Of those, other than nothing: only they can have a sign. */
  amounts: number;
  points: number;
  commas: number;
  negatives: number;
  dates: number;
  serials: number;
  filled: number;
  /** Dates whose first part cannot be a month, and whose second cannot. */
  dayFirst: number;
  monthFirst: number;
  yearFirst: number;
  readonly values: Map<string, number>;
}

const newColumn = (): ColumnSeen => ({ numbers: 0, amounts: 0, points: 0, commas: 0, negatives: 0, dates: 0, serials: 0, filled: 0, dayFirst: 0, monthFirst: 0, yearFirst: 0, values: new Map() }); // prettier-ignore

function see(column: ColumnSeen, raw: string): void {
  const text = unwrap(raw);
  if (text === '') return;
  column.filled++;
  if (column.values.size < 30 || column.values.has(text)) column.values.set(text, (column.values.get(text) ?? 0) + 1);
  const pieces = datePieces(text);
  if (pieces) {
    column.dates++;
    if (pieces.first > 31) column.yearFirst++;
    else if (pieces.first > 12) column.dayFirst++;
    else if (pieces.second > 12) column.monthFirst++;
    return;
  }
  if (isSerialDate(text)) column.serials++;
  if (!isNumber(text)) return;
  column.numbers++;
  if (/[1-9]/.test(text)) column.amounts++;
  if (/^[-(]|-$/.test(text.replace(/[\p{Sc}\s]/gu, ''))) column.negatives++;
  const mark = /([.,])\d{1,2}\D*$/.exec(text)?.[1];
  if (mark === '.') column.points++;
  if (mark === ',') column.commas++;
}

function fieldsByName(header: readonly string[]): Partial<Record<ReceiptField, string>> {
  const columns: Partial<Record<ReceiptField, string>> = {};
  const taken = new Set<string>();
  const names = header.map((name) => ({ name, key: headerFingerprint([name]).trim() }));
  for (const field of Object.keys(HEADER_WORDS) as ReceiptField[]) {
    const found = names.find(({ name, key }) => !taken.has(name) && HEADER_WORDS[field].test(key));
    if (!found) continue;
    columns[field] = found.name;
    taken.add(found.name);
  }
  return columns;
}

function dateOrderOf(column: ColumnSeen | undefined): { order: DateOrder; ambiguous: boolean } {
  if (!column) return { order: 'YMD', ambiguous: false };
  if (column.dates === 0 && column.serials > 0) return { order: 'serial', ambiguous: false };
  if (column.yearFirst > 0 && column.dayFirst + column.monthFirst === 0) return { order: 'YMD', ambiguous: false };
  if (column.dayFirst > 0) return { order: 'DMY', ambiguous: column.monthFirst > 0 };
  if (column.monthFirst > 0) return { order: 'MDY', ambiguous: false };
  return { order: 'DMY', ambiguous: column.dates > 0 };
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
 * Looks through a whole file of receipts and makes a first reading of it. Titles above the header are passed over;
 * columns are known by plain words in their names, and by what stands in them where no name helps.
 */
export async function sniffReceipts(
  rows: RowSource,
  delimiter: ReceiptProfile['delimiter'],
  books: { readonly zone: string; readonly currency: Currency },
): Promise<Sniffed> {
  const first: CsvRow[] = [];
  const sample: string[][] = [];
  let header: readonly string[] | null = null;
  let above = 0;
  let columns: ColumnSeen[] = [];
  let count = 0;
  const take = (row: CsvRow) => {
    if (row.fields.every((field) => field.trim() === '') || sameRow(row.fields, header!)) return;
    count++;
    if (sample.length < SAMPLE) sample.push([...row.fields]);
    row.fields.forEach((field, index) => {
      if (columns[index]) see(columns[index], field);
    });
  };
  const begin = () => {
    const width = Math.max(...first.map((row) => row.fields.length));
    const at = first.findIndex((row) => looksLikeHeader(row.fields, width));
    if (at < 0) refuseFile('no-header', first[0]!.line, { found: first[0]!.fields.join(', ').slice(0, 200) });
    header = first[at]!.fields.map((name) => name.trim());
    above = at;
    columns = header.map(newColumn);
    first.slice(at + 1).forEach(take);
  };
  for await (const batch of rows) {
    for (const row of batch.rows) {
      if (header !== null) take(row);
      else {
        first.push(row);
        if (first.length > MOST_ABOVE) begin();
      }
    }
  }
  if (first.length === 0) refuseFile('empty-file', null);
  if (header === null) begin();
  const names: readonly string[] = header!;
  const byName = fieldsByName(names);
  const seen = (field: ReceiptField) =>
    byName[field] === undefined ? undefined : columns[names.indexOf(byName[field])];
  // Where no name helps, the first column of dates and the first of amounts.
  const free = (test: (column: ColumnSeen) => boolean) =>
    names.find(
      (name, index) => !Object.values(byName).includes(name) && columns[index]!.filled > 0 && test(columns[index]!),
    );
  byName.time ??= free((c) => c.dates + c.serials > c.filled / 2);
  if (byName.paidIn === undefined && byName.net === undefined) byName.gross ??= free((c) => c.numbers > c.filled / 2);
  const amounts = (['gross', 'net', 'fee', 'paidIn', 'paidOut'] as const).flatMap((field) => seen(field) ?? []);
  const commas = amounts.reduce((sum, column) => sum + column.commas, 0);
  const points = amounts.reduce((sum, column) => sum + column.points, 0);
  const { order, ambiguous } = dateOrderOf(seen('time'));
  const kinds = [...(seen('kind')?.values ?? [])].map(([value, n]) => ({ value: value.toLowerCase(), count: n }));
  const fee = seen('fee');
  const ofKind = (of: keyof typeof KIND_WORDS) =>
    kinds.flatMap(({ value }) => (KIND_WORDS[of].test(value) ? [value] : []));
  const tenders = ofKind('tenders');
  // Ways of paying in rows of their own beside what was sold: a till's day.
  const shape = tenders.length > 0 && kinds.length > tenders.length ? 'till-days' : 'receipts';
  const decimal: DecimalMark = commas > points ? ',' : '.';
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

/** Whether a row says the header once more, as printed pages put one above another do. */
export function sameRow(fields: readonly string[], header: readonly string[]): boolean {
  return fields.length === header.length && fields.every((field, index) => field.trim() === header[index]!.trim());
}
