import { JSONParser } from '@streamparser/json';
import { CsvTokenizer, type CsvRow } from '../csv/tokenizer';
import { LIMITS, refuseFile, type ByteSource } from '../finding';
import { decodeAs, type Encoding } from '../text';

/** Rows of a table as they come, the header among them; bytes read so far, for progress. */
export type RowSource = AsyncGenerator<{ readonly rows: readonly CsvRow[]; readonly bytes: number }>;

export type TableFormat = 'csv' | 'json' | 'xlsx';

/** Tells the format by the first bytes: a ZIP is a workbook, a bracket is JSON, all else is text in columns. */
export function formatOf(head: Uint8Array): TableFormat {
  if (head[0] === 0x50 && head[1] === 0x4b && head[2] === 3 && head[3] === 4) return 'xlsx';
  const text = new TextDecoder()
    .decode(head.subarray(0, 256))
    .replace(/^\uFEFF/, '')
    .trimStart();
  return text.startsWith('[') || text.startsWith('{') ? 'json' : 'csv';
}

/** Looks at the first bytes of a source and gives them back with the rest. */
export async function peek(source: ByteSource): Promise<{ readonly head: Uint8Array; readonly whole: ByteSource }> {
  const chunks = source[Symbol.asyncIterator]();
  const first = await chunks.next();
  async function* whole() {
    if (!first.done) yield first.value;
    for (let next = await chunks.next(); !next.done; next = await chunks.next()) yield next.value;
  }
  return { head: first.done ? new Uint8Array() : first.value, whole: whole() };
}

/** Text in columns. Unless its encoding is said, lines that are no UTF-8 are read as Windows-1252, each for itself. */
export async function* csvRows(source: ByteSource, delimiter: string, encoding: Encoding = 'auto'): RowSource {
  const tokenizer = new CsvTokenizer(delimiter);
  let bytes = 0;
  for await (const chunk of decodeAs(source, encoding)) {
    bytes = chunk.bytes;
    yield { rows: tokenizer.feed(chunk.text), bytes };
  }
  yield { rows: tokenizer.end(), bytes };
}

/** Records looked at for the names that make the header of a JSON table. */
const HEADER_RECORDS = 100;

function cellsOf(value: object, prefix = ''): [string, string][] {
  return Object.entries(value).flatMap(([key, cell]): [string, string][] => {
    if (cell === null || cell === undefined) return [[prefix + key, '']];
    if (Array.isArray(cell)) return [[prefix + key, cell.map(String).join(', ')]];
    return typeof cell === 'object' ? cellsOf(cell as object, `${prefix}${key}.`) : [[prefix + key, String(cell)]];
  });
}

/**
 * A JSON list of records, or an object that holds one: each record a row, its names the header; what lies deeper is
 * named with a point (payer.email). Numbers are taken as they are written by JavaScript: amounts that need more than
 * fifteen digits must stand in quotes.
 */
export async function* jsonRows(source: ByteSource): RowSource {
  let queue: [string, string][][] = [];
  const parser = new JSONParser({ paths: ['$.*', '$.*.*'], keepStack: false });
  parser.onValue = ({ value, parent }) => {
    if (Array.isArray(parent) && value !== null && typeof value === 'object') queue.push(cellsOf(value as object));
  };
  let bytes = 0;
  let line = 1;
  let names: string[] | null = null;
  const waiting: [string, string][][] = [];
  const rowOf = (record: [string, string][]): CsvRow => {
    const cells = new Map(record);
    return { line: ++line, fields: names!.map((name) => cells.get(name) ?? '') };
  };
  const begin = (): CsvRow[] => {
    names = [...new Set(waiting.flatMap((record) => record.map(([name]) => name)))];
    return [{ line: 1, fields: names }, ...waiting.map(rowOf)];
  };
  const feed = (step: () => void) => {
    try {
      step();
    } catch {
      refuseFile('not-json', null);
    }
    const records = queue;
    queue = [];
    if (names !== null) return records.map(rowOf);
    waiting.push(...records);
    return waiting.length >= HEADER_RECORDS ? begin() : [];
  };
  for await (const chunk of source) {
    bytes += chunk.length;
    yield { rows: feed(() => parser.write(chunk)), bytes };
  }
  if (bytes === 0) refuseFile('empty-file', null);
  const last = feed(() => {
    if (!parser.isEnded) parser.end();
  });
  yield { rows: [...last, ...(names === null && waiting.length > 0 ? begin() : [])], bytes };
}

/** Refuses a table of more records than may come in one file. */
export function checkCount(count: number): void {
  if (count > LIMITS.records) refuseFile('too-many-records', null, { expected: `${LIMITS.records}` });
}
