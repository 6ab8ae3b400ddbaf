import type { Batch, ByteSource, Finding } from '@/formats/finding';
import { refusalsAsFindings } from '@/formats/finding';
import { readStatement, type StatementFormat, type StatementRecord } from '@/formats/statements';
import { sniffStatement } from '@/formats/statements/sniff';
import type { StatementProfile } from '@/formats/statements/profile';
import { readStatementTable } from '@/formats/statements/statement-table';
import { csvRows } from '@/formats/table/rows';
import { sniffDelimiterOf } from '@/formats/table/survey';

export async function* bytes(data: Uint8Array | string, size = 1 << 20): ByteSource {
  const all = typeof data === 'string' ? new TextEncoder().encode(data) : data;
  for (let at = 0; at < all.length; at += size) yield await Promise.resolve(all.subarray(at, at + size));
}

async function taken(batches: AsyncIterable<Batch<StatementRecord>>) {
  const records: StatementRecord[] = [];
  const findings: Finding[] = [];
  for await (const batch of batches) {
    records.push(...batch.records);
    findings.push(...batch.findings);
  }
  const lines = records.flatMap((record) => (record.kind === 'line' ? [record] : []));
  return { records, findings, lines };
}

/** Reads a text as a format, in pieces of a size. */
export const readSample = (format: Exclude<StatementFormat, 'table'>, data: Uint8Array | string, size?: number) =>
  taken(readStatement(format, bytes(data, size)));

/** Reads a text as a table, as it is guessed but for what is said. */
export async function readTableSample(text: string, change: Partial<StatementProfile> = {}) {
  const delimiter = await sniffDelimiterOf(bytes(text));
  const sniffed = await sniffStatement(csvRows(bytes(text), delimiter), delimiter, { currency: 'EUR', account: '' });
  const profile = { ...sniffed.profile, ...change };
  return {
    sniffed,
    ...(await taken(refusalsAsFindings(readStatementTable(csvRows(bytes(text), delimiter), profile)))),
  };
}
