import { LIMITS, refuseFile, type ByteSource, type Finding } from '../finding';
import { decodeText } from '../text';
import { CsvTokenizer, type CsvRow } from './tokenizer';

const DELIMITERS = [',', ';', '\t'] as const;

/** The delimiter that a header line uses most; a comma where it has none. */
export function sniffDelimiter(header: string): string {
  const counts = DELIMITERS.map((delimiter) => header.split(delimiter).length);
  return DELIMITERS[counts.indexOf(Math.max(...counts))]!;
}

/** A column's name as compared: case, spaces, underscores and hyphens do not matter. */
export function columnKey(name: string): string {
  return name
    .trim()
    .toLowerCase()
    .replace(/[\s_-]+/g, ' ');
}

export interface TableBatch {
  readonly rows: readonly CsvRow[];
  readonly findings: readonly Finding[];
  readonly bytes: number;
}

/** Where each asked-for column stands in the file; -1 where an optional one is missing. */
export type ColumnPositions<C extends string> = Readonly<Record<C, number>>;

function locate<C extends string>(header: CsvRow, required: readonly C[], optional: readonly C[]): ColumnPositions<C> {
  const found = header.fields.map(columnKey);
  const missing = required.filter((name) => !found.includes(columnKey(name)));
  if (missing.length > 0) {
    refuseFile('missing-columns', header.line, {
      expected: missing.join(', '),
      found: header.fields
        .map((name) => name.trim())
        .join(', ')
        .slice(0, 300),
    });
  }
  const positions = {} as Record<C, number>;
  for (const name of [...required, ...optional]) {
    const key = columnKey(name);
    positions[name] = found.indexOf(key);
    if (found.indexOf(key, positions[name] + 1) > positions[name] && positions[name] >= 0) {
      refuseFile('repeated-column', header.line, { field: name });
    }
  }
  return positions;
}

/** Takes the first line of the file to sniff from; waits for more text until there is a whole one. */
async function* withDelimiter(source: ByteSource): AsyncGenerator<{ rows: CsvRow[]; bytes: number }> {
  let tokenizer: CsvTokenizer | null = null;
  let head = '';
  let bytes = 0;
  for await (const chunk of decodeText(source)) {
    bytes = chunk.bytes;
    if (tokenizer !== null) {
      yield { rows: tokenizer.feed(chunk.text), bytes };
      continue;
    }
    head += chunk.text;
    const begin = head.search(/[^\r\n]/);
    const end = begin < 0 ? -1 : head.indexOf('\n', begin);
    if (end < 0) {
      if (head.length > LIMITS.lineLength) refuseFile('line-too-long', 1);
      continue;
    }
    tokenizer = new CsvTokenizer(sniffDelimiter(head.slice(begin, end)));
    yield { rows: tokenizer.feed(head), bytes };
  }
  if (tokenizer === null) {
    if (head.trim() === '') refuseFile('empty-file', null);
    tokenizer = new CsvTokenizer(sniffDelimiter(head));
    yield { rows: tokenizer.feed(head), bytes };
  }
  yield { rows: tokenizer.end(), bytes };
}

/**
 * Reads a CSV with a header row: the delimiter is sniffed from it, required columns must be there, others may. Gives
 * the data rows of each chunk and a way to find a column in them. A row with more or fewer fields than the header is
 * a finding; rows of nothing but empty fields are passed over.
 */
export async function* readTable<C extends string>(
  source: ByteSource,
  columns: { readonly required: readonly C[]; readonly optional: readonly C[] },
): AsyncGenerator<TableBatch & { readonly at: ColumnPositions<C> }> {
  let at: ColumnPositions<C> | null = null;
  let width = 0;
  let count = 0;
  for await (const { rows, bytes } of withDelimiter(source)) {
    const data: CsvRow[] = [];
    const findings: Finding[] = [];
    for (const row of rows) {
      if (at === null) {
        at = locate(row, columns.required, columns.optional);
        width = row.fields.length;
      } else if (row.fields.length === width) {
        if (width > 1 && row.fields.every((field) => field === '')) continue;
        data.push(row);
      } else if (row.fields.some((field) => field.trim() !== '')) {
        findings.push({
          scope: 'record',
          code: 'field-count',
          line: row.line,
          expected: `${width}`,
          found: `${row.fields.length}`,
        });
      }
    }
    count += data.length;
    if (count > LIMITS.records) refuseFile('too-many-records', null, { expected: `${LIMITS.records}` });
    if (at !== null) yield { rows: data, findings, bytes, at };
  }
}
