import fc from 'fast-check';
import { FileRefused, type ByteSource } from '../finding';
import { csvRows, jsonRows } from '../table/rows';
import { ENCODINGS } from '../text';
import { DELIMITERS } from '../table/header';
import { sniffDelimiterOf } from '../table/survey';
import type { ReceiptProfile } from './profile';
import { readCardDeskCsv } from './card-desk-csv';
import { readReceipts } from './receipts-table';
import { sniffReceipts } from './sniff';
import { readTillDays } from './till-days';

const source = (bytes: Uint8Array, size: number): ByteSource =>
  (async function* () {
    for (let at = 0; at < bytes.length; at += size) yield await Promise.resolve(bytes.subarray(at, at + size));
  })();

/** Whether a reading ends in records and findings, or in a refusal of the whole file: anything else is a fault. */
async function ends(reading: () => AsyncIterable<{ readonly records: readonly unknown[] }>): Promise<boolean> {
  try {
    for await (const batch of reading()) expect(Array.isArray(batch.records)).toBe(true);
    return true;
  } catch (error) {
    if (error instanceof FileRefused) return true;
    throw error;
  }
}

const PROFILE: Omit<ReceiptProfile, 'delimiter' | 'encoding' | 'shape' | 'dateOrder' | 'decimal'> = {
  columns: {
    time: 'Date',
    gross: 'Paid',
    kind: 'Kind',
    fee: 'Fee',
    net: 'Net',
    tip: 'Tip',
    item: 'What',
    units: 'Units',
    tax: 'Tax',
    site: 'Site',
    clock: 'At',
  },
  above: 0,
  zone: 'Europe/Dublin',
  currency: 'EUR',
  feeSign: 'minus',
  refunds: ['back'],
  payouts: ['out'],
  skipped: ['skip'],
  chargebacks: ['taken'],
  tenders: ['paid'],
  tips: ['tips'],
  taxIn: 'added',
};

/** Cells as people and programs leave them, and worse. */
const cell = fc.oneof(
  fc.constantFrom(
    '12,50',
    '1.234,00',
    '-3.10',
    '(4.00)',
    '€ 5',
    '2026-11-12',
    '12.11.26',
    '46000',
    '=SUM(A1:A9)',
    '="007"',
    "'x",
    'back',
    'out',
    'paid',
    'tips',
    'skip',
    'taken',
    '',
    ' ',
    '99:99',
    '31.02.2026',
    '1e9',
    '٣',
    '9'.repeat(40),
  ),
  fc.string({ maxLength: 8 }),
  fc.string({ unit: 'binary', maxLength: 5 }),
);
const table = fc.array(fc.array(cell, { minLength: 1, maxLength: 12 }), { minLength: 1, maxLength: 8 });
const reading = fc.record({
  delimiter: fc.constantFrom(...DELIMITERS),
  encoding: fc.constantFrom(...ENCODINGS),
  shape: fc.constantFrom('receipts' as const, 'till-days' as const),
  dateOrder: fc.constantFrom('YMD' as const, 'DMY' as const, 'MDY' as const, 'serial' as const),
  decimal: fc.constantFrom('.' as const, ',' as const),
});
const HEAD = 'Date,Paid,Kind,Fee,Net,Tip,What,Units,Tax,Site,At';
const size = fc.integer({ min: 1, max: 64 });

describe('whatever stands in a file, its reading ends in records, findings or a refusal', () => {
  test('bytes without any sense', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 300 }), size, reading, async (bytes, piece, how) => {
        const profile = { ...PROFILE, ...how };
        expect(await ends(() => readCardDeskCsv(source(bytes, piece)))).toBe(true);
        const rows = () => csvRows(source(bytes, piece), how.delimiter, how.encoding);
        expect(await ends(() => readReceipts(rows(), profile))).toBe(true);
        expect(await ends(() => readTillDays(rows(), profile))).toBe(true);
        expect(await ends(() => readReceipts(jsonRows(source(bytes, piece)), profile))).toBe(true);
      }),
      { numRuns: 120 },
    );
  });

  test('cells under the right columns', async () => {
    await fc.assert(
      fc.asyncProperty(table, size, reading, async (cells, piece, how) => {
        const text = [HEAD.replaceAll(',', how.delimiter), ...cells.map((row) => row.join(how.delimiter))].join('\n');
        const bytes = new TextEncoder().encode(text);
        const rows = () => csvRows(source(bytes, piece), how.delimiter, 'auto');
        const read = how.shape === 'receipts' ? readReceipts : readTillDays;
        expect(await ends(() => read(rows(), { ...PROFILE, ...how }))).toBe(true);
      }),
      { numRuns: 300 },
    );
  });

  test('and so does the guess at what it is', async () => {
    await fc.assert(
      fc.asyncProperty(table, size, async (cells, piece) => {
        const bytes = new TextEncoder().encode([HEAD, ...cells.map((row) => row.join(','))].join('\n'));
        const guess = async function* () {
          const delimiter = await sniffDelimiterOf(source(bytes, piece));
          const books = { zone: 'UTC', currency: 'EUR' };
          yield { records: [await sniffReceipts(csvRows(source(bytes, piece), delimiter), delimiter, books)] };
        };
        expect(await ends(guess)).toBe(true);
      }),
      { numRuns: 150 },
    );
  });
});
