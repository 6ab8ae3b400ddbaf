import fc from 'fast-check';
import { FileRefused, type ByteSource, type Finding } from '../finding';
import { findingWords } from '../finding-words';
import type { ReceiptRecord } from '../receipts/record';
import { readMovements } from './lines';
import { wireEvent, wirePage, wireReading, wireStatements } from './wire';

const source = (bytes: Uint8Array, size = 1 << 16): ByteSource =>
  (async function* () {
    for (let at = 0; at < bytes.length; at += size) yield await Promise.resolve(bytes.subarray(at, at + size));
  })();

async function read(text: string | Uint8Array, size?: number) {
  const records: ReceiptRecord[] = [];
  const findings: Finding[] = [];
  const bytes = typeof text === 'string' ? new TextEncoder().encode(text) : text;
  for await (const batch of readMovements(source(bytes, size))) {
    records.push(...batch.records);
    findings.push(...batch.findings);
  }
  return { records, findings };
}

const MOVEMENT = {
  change: 7,
  id: 'CD-1',
  kind: 'receipt',
  at: '2026-11-12T10:00:00Z',
  currency: 'EUR',
  gross: 14760,
  tip: 100,
  fee: 305,
  payer: { id: '77', name: 'Ann Weir', email: 'ann@mail.example' },
  document: 'KS-2041',
  item: 'repair',
  note: 'mainsail',
  method: 'card',
  payout: 'P-9',
  takesBack: '',
};
const line = (change: object = {}) => JSON.stringify({ ...MOVEMENT, ...change });

describe('movements, one a line', () => {
  test('are receipts as any export has them', async () => {
    const { records, findings } = await read(`${line()}\n`);
    expect(findings).toEqual([]);
    expect(records).toEqual([
      expect.objectContaining({
        line: 1,
        kind: 'receipt',
        id: 'CD-1',
        at: new Date('2026-11-12T10:00:00Z'),
        currency: 'EUR',
        gross: 14760,
        tip: 100,
        fee: 305,
        payer: 'Ann Weir',
        email: 'ann@mail.example',
        payerId: '77',
        document: 'KS-2041',
        item: 'repair',
        note: 'mainsail',
        method: 'card',
        payout: 'P-9',
        refundOf: '',
      }),
    ]);
  });

  test('need no more than id, kind, time, currency and amounts; an unknown fee stays unknown', async () => {
    const { change, id, kind, at, currency, gross } = MOVEMENT;
    const { records } = await read(JSON.stringify({ change, id, kind, at, currency, gross, fee: null }));
    expect(records).toMatchObject([{ fee: null, tip: 0, payer: '', document: '' }]);
  });

  test.each([
    ['no JSON', '{', 'not-a-movement'],
    ['a list', '[1]', 'not-a-movement'],
    ['a kind that is none', line({ kind: 'gift horse' }), 'not-a-movement'],
    ['half a cent', line({ gross: 10.5 }), 'not-a-movement'],
    ['an amount as text', line({ gross: '100' }), 'not-a-movement'],
    ['a time of its own offset', line({ at: '2026-11-12T10:00:00+01:00' }), 'not-a-movement'],
    ['an endless id', line({ id: 'x'.repeat(500) }), 'not-a-movement'],
    ['a receipt below zero', line({ gross: -100 }), 'wrong-sign'],
    ['a refund above zero', line({ kind: 'refund' }), 'wrong-sign'],
    ['a payout above zero', line({ kind: 'payout' }), 'wrong-sign'],
    ['a chargeback of nothing', line({ kind: 'chargeback', gross: 0 }), 'wrong-sign'],
  ])('%s is refused with its line and a sentence, the next comes in', async (_, bad, code) => {
    const { records, findings } = await read(`${line()}\n${bad}\n\n${line({ id: 'CD-2' })}`);
    expect(records.map(({ id, line: at }) => [id, at])).toEqual([
      ['CD-1', 1],
      ['CD-2', 4],
    ]);
    expect(findings).toMatchObject([{ scope: 'record', code, line: 2 }]);
    const { what, next } = findingWords(findings[0]!);
    expect(what.length + next.length).toBeGreaterThan(20);
  });

  test('are the same however they are cut', async () => {
    const text = `${line()}\n${line({ id: 'CD-2', note: 'Zoë’s “rope”' })}\n${line({ kind: 'refund', gross: -5 })}`;
    const whole = await read(text);
    for (const size of [1, 2, 3, 17, 100]) expect(await read(text, size)).toEqual(whole);
  });

  test('any bytes end in records, findings or a refusal, never in a crash', async () => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), fc.integer({ min: 1, max: 50 }), async (bytes, size) => {
        const read = readAll(bytes, size);
        await expect(read).resolves.toBe(true);
      }),
      { numRuns: 150 },
    );
  });
});

/** True where a reader ended as it should, with records or with a refusal of the file. */
async function readAll(bytes: Uint8Array, size: number): Promise<boolean> {
  try {
    await read(bytes, size);
    return true;
  } catch (error) {
    return error instanceof FileRefused;
  }
}

describe('what passes over the wire', () => {
  test.each([
    [wirePage, { items: [], next: 0, more: false }, { items: Array(101).fill(0), next: 1, more: false }],
    [wirePage, { items: [1], next: 5, more: true }, { items: [], next: -1, more: false }],
    [
      wireReading,
      { at: '2026-11-12T10:00:00Z', currency: 'EUR', amount: -5 },
      { at: 'noon', currency: 'EUR', amount: 1 },
    ],
    [
      wireEvent,
      { id: 'E-1', at: '2026-11-12T10:00:00Z', about: 'CD-1' },
      { id: '', at: '2026-11-12T10:00:00Z', about: 'CD-1' },
    ],
    [
      wireStatements,
      { items: [{ change: 1, name: 'a.xml', body: '<a/>' }], next: 1, more: false },
      { items: [{ change: 0, name: 'a', body: '' }], next: 1, more: false },
    ],
  ])('is held to its shape', (schema, good, bad) => {
    expect(schema.safeParse(good).success).toBe(true);
    expect(schema.safeParse(bad).success).toBe(false);
  });
});
