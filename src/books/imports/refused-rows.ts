import { csvLine } from '@/formats/csv';
import type { ByteSource, Finding } from '@/formats/finding';
import { findingWords } from '@/formats/finding-words';
import { REFUSED_BECAUSE } from '@/formats/table/header';
import { sniffDelimiterOf } from '@/formats/table/survey';
import { formatOf, peek, type RowSource } from '@/formats/table/rows';
import { decodeLenient, type Encoding } from '@/formats/text';
import { rowsOf } from './rows-of';

/** Where a table begins in its file, and how its letters are coded. */
export interface TableReading {
  /** Rows above the header. */
  readonly above: number;
  readonly encoding: Encoding;
}

/** A table with its header in the first row, in whatever encoding its bytes say. */
export const PLAIN_TABLE: TableReading = { above: 0, encoding: 'auto' };

/** Says UTF-8 to spreadsheets, and to our own reader whatever it was told before. */
const MARK = '\uFEFF';

function becauseOf(finding: Finding): string {
  const { what, next } = findingWords(finding);
  return `${what} ${next}`.trim();
}

/**
 * The refused rows of a table as CSV, each with its own cells as they came and why it was refused behind them: they can be
 * corrected and brought in again, the last column is passed over then.
 * @param findings in the order of the file; one may hold for several rows (a till's day).
 */
async function* tableRows(rows: RowSource, above: number, findings: readonly Finding[]): AsyncGenerator<string> {
  let index = 0;
  let own: readonly number[] = [];
  let at = 0;
  for await (const batch of rows) {
    let text = '';
    for (const { line, fields } of batch.rows) {
      if (index++ < above) continue;
      if (own.length === 0) {
        // A file that was handed back before has the column already.
        own = fields.flatMap((name, column) => (name.trim() === REFUSED_BECAUSE ? [] : [column]));
        text += csvLine([...own.map((column) => fields[column]!), REFUSED_BECAUSE]);
        continue;
      }
      while (at < findings.length && (findings[at]!.until ?? findings[at]!.line ?? 0) < line) at++;
      const why = [];
      for (let one = at; one < findings.length && (findings[one]!.line ?? 0) <= line; one++) {
        if ((findings[one]!.until ?? findings[one]!.line ?? 0) >= line) why.push(becauseOf(findings[one]!));
      }
      if (why.length > 0) text += csvLine([...own.map((column) => fields[column] ?? ''), why.join(' ')]);
    }
    if (text !== '') yield text;
    if (at >= findings.length) return;
  }
}

/** The refused lines of a file that is no table, as they came, each with its reason. */
async function* plainLines(source: ByteSource, findings: readonly Finding[]): AsyncGenerator<string> {
  const why = new Map(findings.map((finding) => [finding.line ?? 0, becauseOf(finding)]));
  yield csvLine(['Line', 'As it came', REFUSED_BECAUSE]);
  let held = '';
  let line = 0;
  const take = (text: string) => {
    const because = why.get(++line);
    return because === undefined ? '' : csvLine([line, text, because]);
  };
  for await (const chunk of decodeLenient(source)) {
    const lines = (held + chunk.text).split('\n');
    held = lines.pop()!;
    const text = lines.map(take).join('');
    if (text !== '') yield text;
  }
  yield take(held);
}

/** What a file's refused records looked like, as CSV with the reason behind each. */
export async function* refusedRows(
  open: () => ByteSource,
  reading: TableReading | null,
  findings: readonly Finding[],
): AsyncGenerator<string> {
  yield MARK;
  const { head } = await peek(open());
  const isTable = reading !== null && head[0] !== '<'.charCodeAt(0);
  if (!isTable) return yield* plainLines(open(), findings);
  const delimiter = formatOf(head) === 'csv' ? await sniffDelimiterOf(open()) : ',';
  yield* tableRows(rowsOf(open(), delimiter, reading.encoding), reading.above, findings);
}
