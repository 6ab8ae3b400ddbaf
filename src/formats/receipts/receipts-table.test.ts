import fc from 'fast-check';
import { minor, writeAmount } from '../../core/money';
import type { ByteSource, Finding } from '../finding';
import { FileRefused } from '../finding';
import { parseLooseAmount, parseLooseInstant } from '../table/loose';
import { csvRows, formatOf, jsonRows, peek } from '../table/rows';
import type { ReceiptProfile } from './profile';
import { readReceipts } from './receipts-table';
import type { ReceiptRecord } from './record';
import { sniffDelimiterOf } from '../table/survey';
import { sniffReceipts, type Sniffed } from './sniff';

const BOOKS = { zone: 'Europe/Dublin', currency: 'EUR' };

function source(data: string | Uint8Array, size = 1 << 16): () => ByteSource {
  const bytes = typeof data === 'string' ? new TextEncoder().encode(data) : data;
  return async function* () {
    for (let at = 0; at < bytes.length; at += size) yield bytes.subarray(at, at + size);
  };
}

async function sniffed(data: string | Uint8Array, size?: number): Promise<Sniffed> {
  const open = source(data, size);
  const { head } = await peek(open());
  if (formatOf(head) === 'json') return sniffReceipts(jsonRows(open()), ',', BOOKS);
  const delimiter = await sniffDelimiterOf(open());
  return sniffReceipts(csvRows(open(), delimiter), delimiter, BOOKS);
}

async function taken(data: string | Uint8Array, change: Partial<ReceiptProfile> = {}, size?: number) {
  const { profile } = await sniffed(data, size);
  const open = source(data, size);
  const { head } = await peek(open());
  const rows = formatOf(head) === 'json' ? jsonRows(open()) : csvRows(open(), profile.delimiter);
  const records: ReceiptRecord[] = [];
  const findings: Finding[] = [];
  for await (const batch of readReceipts(rows, { ...profile, ...change })) {
    records.push(...batch.records);
    findings.push(...batch.findings);
  }
  return { records, findings };
}

/** What a spreadsheet user does to a file: titles above, German marks, a repeated header, an empty line, a total. */
const SHEET = [
  'Teehaus am Leuchtturm;;;;',
  'Quartal 4;;;;',
  'Datum;Beleg;Kunde;Betrag;Gebühr',
  '03.11.2026;G-1;Müller, Anna;"1.234,50 €";-2,30',
  ';;;;',
  '13.11.2026;G-2;="0042";61,50;-0,80',
  'Datum;Beleg;Kunde;Betrag;Gebühr',
  '14.11.2026;G-3;Öz;(12,00);0,00',
  'Summe;;;1.284,00;-3,10',
].join('\r\n');

test('a sheet as people keep it is read: titles, marks, signs, repeated header, empty line and total', async () => {
  const { profile, ambiguousDates, rows } = await sniffed(SHEET);
  expect(profile).toMatchObject({ delimiter: ';', above: 2, decimal: ',', dateOrder: 'DMY', feeSign: 'minus' });
  expect(profile.columns).toMatchObject({ time: 'Datum', id: 'Beleg', payer: 'Kunde', gross: 'Betrag', fee: 'Gebühr' });
  expect([ambiguousDates, rows]).toEqual([false, 4]);
  const { records, findings } = await taken(SHEET);
  expect(findings).toEqual([]);
  expect(records.map((r) => [r.line, r.id, r.kind, r.gross, r.fee, r.payer, r.at.toISOString()])).toEqual([
    [4, 'G-1', 'receipt', 123450, 230, 'Müller, Anna', '2026-11-03T12:00:00.000Z'],
    [6, 'G-2', 'receipt', 6150, 80, '0042', '2026-11-13T12:00:00.000Z'],
    [8, 'G-3', 'refund', -1200, 0, 'Öz', '2026-11-14T12:00:00.000Z'],
  ]);
});

test('lines in two encodings keep the letters of both, however the bytes are cut', async () => {
  const latin = Uint8Array.from('2026-11-02;M\u00fcller;5.00\n', (c) => c.charCodeAt(0));
  const utf = new TextEncoder().encode('Date;Payer;Amount\n2026-11-01;Zo\u00eb;4.00\n');
  for (const size of [1, 7, 1000]) {
    const { records } = await taken(new Uint8Array([...utf, ...latin]), {}, size);
    expect(records.map((r) => r.payer)).toEqual(['Zo\u00eb', 'M\u00fcller']);
  }
});

test('day and month that no row tells apart are asked for; one row that does settles it', async () => {
  const sheet = (date: string) => `Date,Amount\n03/04/2026,5.00\n${date},6.00\n`;
  expect((await sniffed(sheet('05/06/2026'))).ambiguousDates).toBe(true);
  expect(await sniffed(sheet('05/16/2026'))).toMatchObject({ ambiguousDates: false, profile: { dateOrder: 'MDY' } });
  expect(await sniffed(sheet('16/05/2026'))).toMatchObject({ ambiguousDates: false, profile: { dateOrder: 'DMY' } });
  const { records } = await taken(sheet('05/06/2026'), { dateOrder: 'MDY' });
  expect(records[0]!.at.toISOString().slice(0, 10)).toBe('2026-03-04');
});

test('dates as a spreadsheet’s numbers, signed amounts and no ids: equal rows both stay, the same file gives the same ids', async () => {
  const sheet = 'When\tPaid\tFrom\n46335\t10.00\tA\n46335\t10.00\tA\n46336.5\t-4.00\tB\n';
  const { records } = await taken(sheet);
  expect(records.map((r) => [r.kind, r.gross, r.at.toISOString()])).toEqual([
    ['receipt', 1000, '2026-11-09T12:00:00.000Z'],
    ['receipt', 1000, '2026-11-09T12:00:00.000Z'],
    ['refund', -400, '2026-11-10T12:00:00.000Z'],
  ]);
  expect(new Set(records.map((r) => r.id)).size).toBe(3);
  expect((await taken(sheet)).records.map((r) => r.id)).toEqual(records.map((r) => r.id));
});

test('a list of JSON records, nested names and all', async () => {
  const json = JSON.stringify({
    data: [
      {
        id: 'A',
        created_at: '2026-11-03T23:30:00Z',
        amount: 12.5,
        payer: { name: 'Zoë', email: 'z@mail.example' },
        type: 'payment',
      },
      { id: 'B', created_at: '2026-11-04T10:00:00+01:00', amount: 5, payer: null, type: 'refund' },
      { id: 'P', created_at: '2026-11-05T10:00:00Z', amount: 7.5, type: 'payout' },
    ],
  });
  const found = await sniffed(json, 11);
  expect(found.kinds).toEqual([
    { value: 'payment', count: 1 },
    { value: 'refund', count: 1 },
    { value: 'payout', count: 1 },
  ]);
  const { records } = await taken(
    json,
    { columns: { ...found.profile.columns, payer: 'payer.name', email: 'payer.email' } },
    11,
  );
  expect(records.map((r) => [r.id, r.kind, r.gross, r.payer, r.at.toISOString()])).toEqual([
    ['A', 'receipt', 1250, 'Zoë', '2026-11-03T23:30:00.000Z'],
    ['B', 'refund', -500, '', '2026-11-04T09:00:00.000Z'],
    ['P', 'payout', -750, '', '2026-11-05T10:00:00.000Z'],
  ]);
});

test.each([
  ['Date,Amount,Fee,Net\n2026-11-03,10.00,1.00,8.00\n', 'net-differs', 'Net'],
  ['Date,Amount\n2026-11-03,ten\n2026-11-04,1.00\n', 'bad-amount', 'Amount'],
  ['Date,Amount\n2026-02-30,1.00\n2026-11-04,1.00\n', 'bad-time', 'Date'],
  ['Date,Amount\n2026-11-03,=B1*2\n2026-11-04,1.00\n', 'formula', 'Amount'],
  ['Date,Amount,Currency\n2026-11-03,1.00,euros\n', 'bad-currency', 'Currency'],
  ['Date,Amount,Tip\n2026-11-03,1.00,2.00\n', 'tip-too-large', 'Tip'],
])('%j is refused in its row: %s in %s', async (text, code, field) => {
  const { findings } = await taken(text);
  expect(findings).toEqual([expect.objectContaining({ scope: 'record', code, field, line: 2 })]);
});

test.each([
  ['', 'empty-file'],
  ['1,2\n3,4\n', 'no-header'],
  ['Name,Colour\nA,red\n', 'missing-columns'],
  ['{"a": [', 'not-json'],
])('%j is refused as a whole: %s', async (text, code) => {
  await expect(taken(text)).rejects.toMatchObject({ finding: { code } });
  await expect(taken(text)).rejects.toBeInstanceOf(FileRefused);
});

test('any amount, however it is dressed, is read back to the cent', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: -999_999_999, max: 999_999_999 }),
      fc.constantFrom('.' as const, ',' as const),
      fc.boolean(),
      fc.constantFrom('', '€ ', ' EUR', ' €'),
      fc.constantFrom('front', 'behind', 'brackets'),
      (cents, decimal, grouped, sign, minus) => {
        const plain = writeAmount(minor(Math.abs(cents)), 'EUR');
        const [first, part] = plain.split('.') as [string, string];
        const whole = !grouped ? first : first.replace(/\B(?=(\d{3})+$)/g, decimal === '.' ? ',' : '.');
        let text = `${whole}${decimal}${part}`;
        text = sign.startsWith('€ ') ? sign + text : text + sign;
        if (cents < 0)
          text = minus === 'front' ? `-${text}` : minus === 'behind' && sign === '' ? `${text}-` : `(${text})`;
        const parsed = parseLooseAmount(text, 'EUR', decimal);
        expect([text, parsed]).toEqual([text, { ok: true, minor: cents }]);
      },
    ),
    { numRuns: 500 },
  );
});

test.each([
  ['29/03/2026 00:30', 'DMY', '2026-03-29T00:30:00.000Z'],
  ['29/03/2026 02:30', 'DMY', '2026-03-29T01:30:00.000Z'],
  ['11/16/26 1:05 PM', 'MDY', '2026-11-16T13:05:00.000Z'],
  ['2026-07-01 09:00:00', 'YMD', '2026-07-01T08:00:00.000Z'],
  ['2026-07-01T09:00:00+0200', 'YMD', '2026-07-01T07:00:00.000Z'],
  ['31/04/2026', 'DMY', undefined],
  ['1/2/2026 25:00', 'DMY', undefined],
  ['tomorrow', 'DMY', undefined],
] as const)('%s in the order %s is %s', (text, order, expected) => {
  expect(parseLooseInstant(text, order, 'Europe/Dublin')?.toISOString()).toBe(expected);
});

test('any bytes end in records, findings or a refusal', async () => {
  await fc.assert(
    fc.asyncProperty(fc.uint8Array({ maxLength: 120 }), fc.nat(200), async (junk, at) => {
      const seed = new TextEncoder().encode(SHEET);
      const place = at % seed.length;
      const mixed = new Uint8Array([...seed.subarray(0, place), ...junk, ...seed.subarray(place)]);
      await taken(mixed, {}, 50).catch((error: unknown) => {
        if (!(error instanceof FileRefused)) throw error;
      });
    }),
    { numRuns: 200 },
  );
});
