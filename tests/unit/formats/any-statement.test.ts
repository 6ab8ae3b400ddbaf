import fc from 'fast-check';
import { findingWords } from '@/formats/finding-words';
import type { StatementFormat } from '@/formats/statements';
import { readSample as read, readTableSample as table } from './read-samples';
import { BAI2, CAMT054, IBAN, MT940, OFX1, OFX2 } from './statement-files';

const OF: readonly [Exclude<StatementFormat, 'table'>, string][] = [
  ['mt940', MT940],
  ['ofx', OFX1],
  ['ofx', OFX2],
  ['bai2', BAI2],
  ['camt', CAMT054],
];

describe('hostile files end in a refusal', () => {
  test.each([
    ['mt940', `:20:x\n:25:1\n:60F:C261101EUR0,\n:86:${'x'.repeat(2_000_000)}`],
    ['mt940', `:20:x\n:25:1\n:60F:C261101EUR0,\n:61:261101C1,NTRFX\n:86:a\n${'0123456789\n'.repeat(200_000)}`],
    ['ofx', `<OFX>${'<A>'.repeat(5_000)}`],
    ['ofx', `OFXHEADER:100\n<OFX><STMTRS><CURDEF>${'E'.repeat(2_000_000)}`],
    ['ofx', `<?xml version="1.0"?><OFX>${'<A>'.repeat(5_000)}`],
    ['bai2', `01,a,b,261112,0700,1,,,2/\n${`88,${'x'.repeat(500)}\n`.repeat(4_000)}`],
    ['camt', `<Document><BkToCstmrStmt>${'x'.repeat(2_000_000)}`],
    ['mt940', ':20:\0x'],
    ['camt', '<Document>\0</Document>'],
  ] as const)('%s', async (format, text) => {
    const { findings } = await read(format, text, 65_536);
    expect(findings).toMatchObject([{ scope: 'file' }]);
  });
});

describe('any bytes end in records or findings', () => {
  test.each(OF)('%s', async (format, seed) => {
    const clean = new TextEncoder().encode(seed);
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 60 }), fc.nat(), fc.nat(200), async (junk, at, cut) => {
        const place = at % (clean.length + 1);
        const mixed = new Uint8Array([...clean.subarray(0, place), ...junk, ...clean.subarray(place + cut)]);
        const { findings, records } = await read(format, mixed, 97);
        for (const finding of findings) expect(findingWords(finding).what.length).toBeGreaterThan(5);
        // Never half of it: what ends without a refusal has an end to each of its statements.
        const count = (kind: string) => records.filter((record) => record.kind === kind).length;
        if (findings.length === 0) expect(count('end')).toBe(count('statement'));
      }),
      { numRuns: 200 },
    );
  });
  test('a table', async () => {
    const cell = fc.oneof(
      fc.constantFrom('12,50', '-3.10', '2026-11-12', '12.11.26', 'D', 'C', '', 'EUR', IBAN, '=1+1', '9'.repeat(30)),
      fc.string({ maxLength: 6 }),
    );
    const rows = fc.array(fc.array(cell, { minLength: 1, maxLength: 7 }), { minLength: 1, maxLength: 6 });
    await fc.assert(
      fc.asyncProperty(rows, async (body) => {
        const text = ['Date,Text,Amount,Balance,D/C,Currency,Account', ...body.map((row) => row.join(','))].join('\n');
        const reading = table(text).catch((error: { finding?: unknown }) => {
          if (error.finding === undefined) throw error;
          return { findings: [], records: [] };
        });
        const { findings } = await reading;
        for (const finding of findings) expect(findingWords(finding).what.length).toBeGreaterThan(5);
      }),
      { numRuns: 300 },
    );
  });
});
