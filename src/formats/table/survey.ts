import { CsvTokenizer, type CsvRow } from '../csv/tokenizer';
import { FileRefused, refuseFile, type ByteSource } from '../finding';
import { decodeLenient } from '../text';
import { DELIMITERS, headerFingerprint, sameRow, type Delimiter } from './header';
import { datePieces, isSerialDate, unwrap, type DateOrder, type DecimalMark } from './loose';
import type { RowSource } from './rows';

/** Characters looked at to tell the delimiter, and rows shown as a sample. */
const HEAD = 64 * 1024;
const SAMPLE = 8;
/** Rows above the header that titles may take. */
const MOST_ABOVE = 30;

/** The delimiter under which most of the first lines have the same number of fields. */
export async function sniffDelimiterOf(source: ByteSource): Promise<Delimiter> {
  let head = '';
  for await (const chunk of decodeLenient(source)) {
    head += chunk.text;
    if (head.length >= HEAD) break;
  }
  if (head.trim() === '') refuseFile('empty-file', null);
  let best: { delimiter: Delimiter; score: number } = { delimiter: ',', score: 0 };
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

/** What was seen of a column while the whole file was looked through. */
export interface ColumnSeen {
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

const newColumn = (): ColumnSeen => ({
  numbers: 0,
  amounts: 0,
  points: 0,
  commas: 0,
  negatives: 0,
  dates: 0,
  serials: 0,
  filled: 0,
  dayFirst: 0,
  monthFirst: 0,
  yearFirst: 0,
  values: new Map(),
});

/** A column with more values than this is no list of words; what stands in it is not counted any more. */
const MOST_VALUES = 30;

/** Neither a date nor an amount begins with a letter, as most cells of a bank's text do. */
const isWord = (code: number) => (code | 32) >= 97 && (code | 32) <= 122;

/** Amounts as machines write them, which are nearly all; anything else is looked at closely. */
const PLAIN_AMOUNT = /^(-?)\d{1,12}([.,])\d\d$/;

function see(column: ColumnSeen, raw: string): void {
  const counting = column.values.size < MOST_VALUES;
  if (!counting && isWord(raw.charCodeAt(0))) {
    column.filled++;
    return;
  }
  const text = unwrap(raw);
  if (text === '') return;
  column.filled++;
  if (counting) column.values.set(text, (column.values.get(text) ?? 0) + 1);
  if (isWord(text.charCodeAt(0))) return;
  const plain = PLAIN_AMOUNT.exec(text);
  if (plain) {
    column.numbers++;
    if (/[1-9]/.test(text)) column.amounts++;
    if (plain[1] === '-') column.negatives++;
    if (plain[2] === '.') column.points++;
    else column.commas++;
    // Five digits with a part of a day may be a date of a spreadsheet too.
    if (isSerialDate(text)) column.serials++;
    return;
  }
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

/** The columns that plain words in their names tell; the first field that fits takes one, each column once. */
export function fieldsByName<F extends string>(
  header: readonly string[],
  words: Readonly<Record<F, RegExp>>,
): Partial<Record<F, string>> {
  const columns: Partial<Record<F, string>> = {};
  const taken = new Set<string>();
  const names = header.map((name) => ({ name, key: headerFingerprint([name]).trim() }));
  for (const field of Object.keys(words) as F[]) {
    const found = names.find(({ name, key }) => !taken.has(name) && words[field].test(key));
    if (!found) continue;
    columns[field] = found.name;
    taken.add(found.name);
  }
  return columns;
}

/** In which order the dates of a column are written, over the whole file; ambiguous where no row tells. */
export function dateOrderOf(column: ColumnSeen | undefined): { order: DateOrder; ambiguous: boolean } {
  if (!column) return { order: 'YMD', ambiguous: false };
  if (column.dates === 0 && column.serials > 0) return { order: 'serial', ambiguous: false };
  if (column.yearFirst > 0 && column.dayFirst + column.monthFirst === 0) return { order: 'YMD', ambiguous: false };
  if (column.dayFirst > 0) return { order: 'DMY', ambiguous: column.monthFirst > 0 };
  if (column.monthFirst > 0) return { order: 'MDY', ambiguous: false };
  return { order: 'DMY', ambiguous: column.dates > 0 };
}

/** What a table looks like: its header, what stands in each column, a sample of raw rows. */
export interface Survey {
  readonly header: readonly string[];
  /** Rows above the header. */
  readonly above: number;
  readonly columns: readonly ColumnSeen[];
  readonly sample: readonly (readonly string[])[];
  readonly rows: number;
  /** The columns at these positions in the first and the last row. */
  readonly first: readonly string[];
  readonly last: readonly string[];
}

/** Looks a whole table through. Titles above the header are passed over, and so is a header that stands again. */
export async function survey(rows: RowSource): Promise<Survey> {
  const first: CsvRow[] = [];
  const sample: string[][] = [];
  let header: readonly string[] | null = null;
  let above = 0;
  let columns: ColumnSeen[] = [];
  let count = 0;
  let last: readonly string[] = [];
  const take = (row: CsvRow) => {
    if (row.fields.every((field) => field.trim() === '') || sameRow(row.fields, header!)) return;
    count++;
    last = row.fields;
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
  return { header: header!, above, columns, sample, rows: count, first: sample[0] ?? [], last };
}

/** The decimal mark of these columns, by what most of their values have. */
export function decimalOf(columns: readonly ColumnSeen[]): DecimalMark {
  const commas = columns.reduce((sum, column) => sum + column.commas, 0);
  return commas > columns.reduce((sum, column) => sum + column.points, 0) ? ',' : '.';
}

/** The first column that no field has taken and that is as asked. */
export function freeColumn(
  { header, columns }: Survey,
  taken: readonly (string | undefined)[],
  test: (column: ColumnSeen) => boolean,
): string | undefined {
  return header.find((name, index) => !taken.includes(name) && columns[index]!.filled > 0 && test(columns[index]!));
}
