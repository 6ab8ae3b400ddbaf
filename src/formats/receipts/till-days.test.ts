import fc from 'fast-check';
import type { ByteSource, Finding } from '../finding';
import { csvRows } from '../table/rows';
import type { ReceiptProfile } from './profile';
import type { ReceiptRecord } from './record';
import { readTillDays } from './till-days';

const PROFILE: ReceiptProfile = {
  columns: {
    time: 'Day',
    kind: 'Kind',
    item: 'What',
    gross: 'Amount',
    tax: 'Tax',
    units: 'Units',
    discount: 'Off',
    site: 'Site',
    id: 'No',
    currency: 'Cur',
    payout: 'Payout',
  },
  delimiter: ',',
  above: 0,
  decimal: '.',
  dateOrder: 'YMD',
  zone: 'UTC',
  currency: 'EUR',
  feeSign: 'plus',
  refunds: [],
  payouts: ['settlement'],
  skipped: ['note'],
  chargebacks: [],
  shape: 'till-days',
  tenders: ['paid'],
  tips: ['tips'],
  taxIn: 'included',
  encoding: 'auto',
};
const HEAD = 'Day,Kind,What,Amount,Tax,Units,Off,Site,No,Cur,Payout\n';

async function read(rows: readonly string[], change: Partial<ReceiptProfile> = {}, size = 1 << 16) {
  const bytes = new TextEncoder().encode(HEAD + rows.join('\n'));
  const source: ByteSource = (async function* () {
    for (let at = 0; at < bytes.length; at += size) yield await Promise.resolve(bytes.subarray(at, at + size));
  })();
  const records: ReceiptRecord[] = [];
  const findings: Finding[] = [];
  for await (const batch of readTillDays(csvRows(source, ','), { ...PROFILE, ...change })) {
    records.push(...batch.records);
    findings.push(...batch.findings);
  }
  return { records, findings };
}

const DAY = [
  '2026-11-14,sale,tea,10.00,1.19,4,,TEA,,,',
  '2026-11-14,sale,cake,6.00,,2.5,1.00,TEA,,,',
  '2026-11-14,tips,,0.50,,,,TEA,,,',
  '2026-11-14,note,closed early,,,,,TEA,,,',
  '2026-11-14,paid,Cash,9.00,,,,TEA,,,',
  '2026-11-14,paid,card,6.50,,,,TEA,,,',
];

describe('a till’s days', () => {
  test('are one receipt a day and site, with lines and tenders; discounts are taken off, rows said to be nothing passed over', async () => {
    const { records, findings } = await read(DAY);
    expect(findings).toEqual([]);
    expect(records).toMatchObject([
      {
        kind: 'receipt',
        id: 'day TEA 2026-11-14',
        gross: 1550,
        tip: 50,
        fee: null,
        site: 'TEA',
        method: '',
        lines: [
          { item: 'tea', units: 4000, gross: 1000, discount: 0, tax: 119 },
          { item: 'cake', units: 2500, gross: 500, discount: 100, tax: null },
        ],
        tenders: [
          { tender: 'cash', amount: 900 },
          { tender: 'card', amount: 650 },
        ],
      },
    ]);
  });

  test('have the tax added to what was sold where the profile says so', async () => {
    const rows = ['2026-11-14,sale,tea,10.00,1.35,1,,TEA,,,', '2026-11-14,paid,card,11.35,,,,TEA,,,'];
    const { records } = await read(rows, { taxIn: 'added' });
    expect(records).toMatchObject([{ gross: 1135, method: 'card', lines: [{ gross: 1135, tax: 135 }] }]);
  });

  test('may have sites alternate within a day, numbers of their own, and settlements between them', async () => {
    const { records, findings } = await read([
      '2026-11-14,sale,tea,10.00,,,,TEA,Z-1,,SET-1',
      '2026-11-14,sale,rope,4.00,,,,SLIP,Z-2,,',
      '2026-11-14,paid,card,10.00,,,,TEA,Z-1,,SET-1',
      '2026-11-14,paid,cash,4.00,,,,SLIP,Z-2,,',
      '2026-11-15,settlement,,10.00,,,,,SET-1,,',
      '2026-11-16,sale,tea,2.00,,,,TEA,Z-3,,',
      '2026-11-16,paid,card,2.00,,,,TEA,Z-3,,',
    ]);
    expect(findings).toEqual([]);
    expect(records.map(({ kind, id, gross, payout }) => [kind, id, gross, payout])).toEqual(
      expect.arrayContaining([
        ['receipt', 'Z-1', 1000, 'SET-1'],
        ['receipt', 'Z-2', 400, ''],
        ['payout', 'SET-1', -1000, ''],
        ['receipt', 'Z-3', 200, ''],
      ]),
    );
  });

  test.each([
    [
      'whose tenders are less',
      ['2026-11-14,sale,tea,10.00,,,,TEA,,,', '2026-11-14,paid,card,9.99,,,,TEA,,,'],
      'tenders-differ',
    ],
    [
      'whose tips were left out of what was paid',
      [
        '2026-11-14,sale,tea,10.00,,,,TEA,,,',
        '2026-11-14,tips,,1.00,,,,TEA,,,',
        '2026-11-14,paid,card,10.00,,,,TEA,,,',
      ],
      'tenders-differ',
    ],
    ['on which nothing was sold', ['2026-11-14,paid,card,10.00,,,,TEA,,,'], 'missing-value'],
    [
      'with an amount that is none',
      ['2026-11-14,sale,tea,ten,,,,TEA,,,', '2026-11-14,paid,card,10.00,,,,TEA,,,'],
      'bad-amount',
    ],
    [
      'with a sale without an amount',
      ['2026-11-14,sale,tea,,,,,TEA,,,', '2026-11-14,paid,card,10.00,,,,TEA,,,'],
      'missing-value',
    ],
    [
      'paid in nothing that is named',
      ['2026-11-14,sale,tea,10.00,,,,TEA,,,', '2026-11-14,paid,,10.00,,,,TEA,,,'],
      'missing-value',
    ],
    [
      'in a currency that is none',
      ['2026-11-14,sale,tea,10.00,,,,TEA,,EURO,', '2026-11-14,paid,card,10.00,,,,TEA,,EURO,'],
      'bad-currency',
    ],
    ['that is no day', ['31.31.2026,sale,tea,10.00,,,,TEA,,,'], 'bad-time'],
  ])('%s are refused, and the day after comes in', async (_, rows, code) => {
    const good = ['2026-11-15,sale,tea,5.00,,,,TEA,,,', '2026-11-15,paid,card,5.00,,,,TEA,,,'];
    const { records, findings } = await read([...rows, ...good]);
    expect(findings.map((finding) => finding.code)).toContain(code);
    expect(records.map(({ gross }) => gross)).toEqual([500]);
  });

  test('however the file is cut into pieces, the days are the same', async () => {
    const whole = await read([...DAY, '2026-11-15,sale,tea,5.00,,,,TEA,,,', '2026-11-15,paid,card,5.00,,,,TEA,,,']);
    await fc.assert(
      fc.asyncProperty(fc.integer({ min: 1, max: 90 }), async (size) => {
        const rows = [...DAY, '2026-11-15,sale,tea,5.00,,,,TEA,,,', '2026-11-15,paid,card,5.00,,,,TEA,,,'];
        expect(await read(rows, {}, size)).toEqual(whole);
      }),
      { numRuns: 25 },
    );
  });

  test('whatever is sold and however it is paid, a day that comes in foots to the cent', async () => {
    const amount = fc.integer({ min: 1, max: 90_000 });
    const money = (cents: number) => (cents / 100).toFixed(2);
    await fc.assert(
      fc.asyncProperty(
        fc.array(amount, { minLength: 1, maxLength: 6 }),
        fc.array(amount, { maxLength: 3 }),
        amount,
        async (sold, cash, tip) => {
          const total = sold.reduce((a, b) => a + b, 0) + tip;
          const paid = cash.reduce((a, b) => a + b, 0);
          const { records, findings } = await read([
            ...sold.map((cents) => `2026-11-14,sale,tea,${money(cents)},,,,TEA,,,`),
            `2026-11-14,tips,,${money(tip)},,,,TEA,,,`,
            ...cash.map((cents) => `2026-11-14,paid,cash,${money(cents)},,,,TEA,,,`),
            ...(total > paid ? [`2026-11-14,paid,card,${money(total - paid)},,,,TEA,,,`] : []),
          ]);
          if (paid > total) return expect(findings).toMatchObject([{ code: 'tenders-differ' }]);
          const [day] = records;
          expect(day!.gross).toBe(total);
          expect(day!.tenders!.reduce((a, b) => a + b.amount, 0)).toBe(total);
          expect(day!.lines!.reduce((a, b) => a + b.gross, 0) + day!.tip).toBe(total);
        },
      ),
      { numRuns: 60 },
    );
  });
});
