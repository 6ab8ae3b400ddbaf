import { LIMITS, refuseFile } from '../finding';

export interface CsvRow {
  /** Line of the file on which the row begins, from 1. */
  readonly line: number;
  readonly fields: string[];
}

const QUOTE = '"';

/**
 * Splits text into rows of fields (RFC 4180: quoted fields hold delimiters, line ends and doubled quotes), fed in
 * chunks. One linear scan; a row without a quote, which is nearly every row, is one `indexOf` and one `split`.
 * An empty line gives no row. Lines end with LF or CRLF. A field that opens with a quote must close before the file
 * ends and have nothing but a delimiter after it; a quote elsewhere is an ordinary character.
 */
export class CsvTokenizer {
  private rest = '';
  private line = 1;
  /** Rows longer than this many characters are refused, however they are quoted. */
  private readonly limit = LIMITS.lineLength;

  constructor(private readonly delimiter: string) {}

  /** Takes the next chunk and gives the rows that are complete with it. */
  feed(chunk: string): CsvRow[] {
    const text = this.rest === '' ? chunk : this.rest + chunk;
    const rows: CsvRow[] = [];
    let at = 0;
    let quote = text.indexOf(QUOTE);
    for (;;) {
      const end = text.indexOf('\n', at);
      if (end < 0) break;
      if (quote >= 0 && quote < at) quote = text.indexOf(QUOTE, at);
      if (quote < 0 || quote > end) {
        if (end - at > this.limit) this.refuseLength(end - at);
        const stop = text.charCodeAt(end - 1) === 13 && end > at ? end - 1 : end;
        if (stop > at) rows.push({ line: this.line, fields: text.slice(at, stop).split(this.delimiter) });
        this.line++;
        at = end + 1;
        continue;
      }
      const next = this.quotedRow(text, at, rows, false);
      if (next < 0) break;
      at = next;
    }
    this.rest = at === 0 ? text : text.slice(at);
    if (this.rest.length > this.limit) this.refuseLength(this.rest.length);
    return rows;
  }

  /** Gives the last row where the file does not end with a line end. */
  end(): CsvRow[] {
    const rows: CsvRow[] = [];
    const text = this.rest;
    this.rest = '';
    if (text === '' || text === '\r') return rows;
    this.quotedRow(text, 0, rows, true);
    return rows;
  }

  /** Reads one row field by field. Returns where the next begins, or -1 where the row is not complete yet. */
  private quotedRow(text: string, start: number, rows: CsvRow[], last: boolean): number {
    const fields: string[] = [];
    let line = this.line;
    let at = start;
    for (;;) {
      let value = '';
      if (text[at] === QUOTE) {
        at++;
        for (;;) {
          const close = text.indexOf(QUOTE, at);
          if (close < 0) return last ? refuseFile('unclosed-quote', line) : -1;
          value += text.slice(at, close);
          at = close + 1;
          if (text[at] !== QUOTE) break;
          value += QUOTE;
          at++;
        }
        for (const character of value) if (character === '\n') line++;
        if (!last && (at >= text.length || (text[at] === '\r' && at + 1 >= text.length))) return -1;
      } else {
        const stop = this.fieldEnd(text, at);
        if (stop < 0 && !last) return -1;
        const to = stop < 0 ? text.length : stop;
        value = text.slice(at, to);
        if (text[to] !== this.delimiter && value.endsWith('\r')) value = value.slice(0, -1);
        at = to;
      }
      fields.push(value);
      if (text[at] === this.delimiter) {
        at++;
        if (at >= text.length && !last) return -1;
        continue;
      }
      if (text[at] === '\r') at++;
      if (at < text.length && text[at] !== '\n') refuseFile('stray-quote', line, { found: value.slice(0, 40) });
      break;
    }
    if (at - start > this.limit) this.refuseLength(at - start);
    rows.push({ line: this.line, fields });
    this.line = line + 1;
    return at + 1;
  }

  private fieldEnd(text: string, from: number): number {
    const delimiter = text.indexOf(this.delimiter, from);
    const newline = text.indexOf('\n', from);
    if (delimiter < 0) return newline;
    return newline < 0 ? delimiter : Math.min(delimiter, newline);
  }

  private refuseLength(length: number): never {
    refuseFile('line-too-long', this.line, { expected: `${this.limit} characters`, found: `${length}` });
  }
}
