import { type Batch, type ByteSource } from '../finding';
import { readBai2 } from './bai2';
import { readCamt } from './camt';
import { readMt940 } from './mt940';
import { readOfx } from './ofx';
import type { StatementRecord } from './record';

/** What a statement file is by its content: one of the banks' formats, or a table whose columns have to be told. */
export type StatementFormat = 'camt' | 'mt940' | 'ofx' | 'bai2' | 'table';

/** Characters looked at; the formats show themselves in their first lines. */
const HEAD = 4_096;

/** The first bytes as letters, whatever encoding they are in. */
function letters(head: Uint8Array): string {
  const wide = (head[0] === 0xff && head[1] === 0xfe) || (head[0] === 0xfe && head[1] === 0xff);
  const bytes = wide ? head.filter((byte) => byte !== 0) : head;
  return new TextDecoder('windows-1252')
    .decode(bytes.subarray(0, HEAD))
    .replace(/^(ï»¿|ÿþ|þÿ)/, '')
    .trimStart();
}

/** Tells the format by what the file begins with, never by its name. */
export function statementFormat(head: Uint8Array): StatementFormat {
  const text = letters(head);
  if (/^(OFXHEADER\s*:|<\?OFX\b|<OFX>)/i.test(text)) return 'ofx';
  if (text.startsWith('<')) return /<OFX>|<\?OFX\b/i.test(text) ? 'ofx' : 'camt';
  if (/^01,[^,\n]*,[^,\n]*,\d{6},/.test(text)) return 'bai2';
  if (/^(\{1:|\{4:|:20:)/.test(text) || /^[^\n]{0,200}\r?\n?:20:/.test(text)) return 'mt940';
  return 'table';
}

const READERS: Readonly<
  Record<Exclude<StatementFormat, 'table'>, (source: ByteSource) => AsyncGenerator<Batch<StatementRecord>>>
> = {
  camt: readCamt,
  mt940: readMt940,
  ofx: readOfx,
  bai2: readBai2,
};

/** Reads a statement in one of the banks' own formats. */
export function readStatement(format: Exclude<StatementFormat, 'table'>, source: ByteSource) {
  return READERS[format](source);
}
