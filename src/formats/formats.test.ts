import fc from 'fast-check';
import { camt053 } from '@/standins/bank/camt053-writer';
import type { Batch, ByteSource, Finding } from './finding';
import { findingWords } from './finding-words';
import { readInvoicesCsv } from './invoices/invoices-csv';
import { readCardDeskCsv } from './receipts/card-desk-csv';
import { readCamt } from './statements/camt';

async function* bytes(data: Uint8Array | string, size = 1 << 20): ByteSource {
  const all = typeof data === 'string' ? new TextEncoder().encode(data) : data;
  for (let at = 0; at < all.length; at += size) yield all.subarray(at, at + size);
}

async function read<T>(batches: AsyncIterable<Batch<T>>): Promise<{ records: T[]; findings: Finding[] }> {
  const records: T[] = [];
  const findings: Finding[] = [];
  for await (const batch of batches) {
    records.push(...batch.records);
    findings.push(...batch.findings);
  }
  return { records, findings };
}

const HEAD = 'Id,Type,Time,Currency,Gross,Fee,Net,Payer,Document,Payout,Tip\n';
const desk = (rows: string) => read(readCardDeskCsv(bytes(HEAD + rows)));

describe('card desk export', () => {
  test('receipt, refund and payout, with their signs', async () => {
    const { records, findings } = await desk(
      'A,receipt,2026-11-09T10:00:00Z,EUR,147.60,3.05,144.55,A. Tern,KS-2041,P-1,\n' +
        'B,refund,2026-11-09T11:00:00Z,EUR,-10.00,0.00,-10.00,,,,\n' +
        'P-1,payout,2026-11-10T05:00:00Z,EUR,-134.55,,-134.55,,,,\n',
    );
    expect(findings).toEqual([]);
    expect(records.map((r) => [r.kind, r.gross, r.fee])).toEqual([
      ['receipt', 14760, 305],
      ['refund', -1000, 0],
      ['payout', -13455, 0],
    ]);
  });

  test('a fee that is not stated stays unknown; from gross and net it is known', async () => {
    const { records } = await desk(
      'A,receipt,2026-11-09T10:00:00Z,EUR,85.00,,,,,,\nB,receipt,2026-11-09T10:00:00Z,EUR,85.00,,83.13,,,,\n',
    );
    expect(records.map((r) => r.fee)).toEqual([null, 187]);
  });

  test.each([
    ['A,receipt,2026-11-09T10:00:00Z,EUR,12.3x,,,,,,', 'bad-amount', 'Gross'],
    ['A,receipt,2026-11-09T10:00:00Z,EUR,,,,,,,', 'missing-value', 'Gross'],
    ['A,receipt,09/11/2026,EUR,5.00,,,,,,', 'bad-time', 'Time'],
    ['A,receipt,2026-11-31T10:00:00Z,EUR,5.00,,,,,,', 'bad-time', 'Time'],
    ['A,sale,2026-11-09T10:00:00Z,EUR,5.00,,,,,,', 'bad-kind', 'Type'],
    ['A,receipt,2026-11-09T10:00:00Z,euros,5.00,,,,,,', 'bad-currency', 'Currency'],
    ['A,receipt,2026-11-09T10:00:00Z,EUR,-5.00,,,,,,', 'wrong-sign', 'Gross'],
    ['A,refund,2026-11-09T10:00:00Z,EUR,5.00,,,,,,', 'wrong-sign', 'Gross'],
    ['A,receipt,2026-11-09T10:00:00Z,EUR,5.00,0.10,4.80,,,,', 'net-differs', 'Net'],
    ['A,payout,2026-11-09T10:00:00Z,EUR,-5.00,0.10,,,,,', 'fee-on-payout', 'Fee'],
    ['A,receipt,2026-11-09T10:00:00Z,EUR,5.00,,,,,,6.00', 'tip-too-large', 'Tip'],
    [',receipt,2026-11-09T10:00:00Z,EUR,5.00,,,,,,', 'missing-value', 'Id'],
  ])('%s is refused alone: %s in %s', async (row, code, field) => {
    const good = 'Z,receipt,2026-11-09T10:00:00Z,EUR,5.00,0.35,4.65,,,,\n';
    const { records, findings } = await desk(`${row}\n${good}`);
    expect(records.map((r) => r.id)).toEqual(['Z']);
    expect(findings).toEqual([expect.objectContaining({ scope: 'record', code, field, line: 2 })]);
    expect(findingWords(findings[0]!).what).toMatch(/^Line 2/);
  });
});

const LINES = [
  { date: '2026-11-02', amount: -85000, text: 'SO RENT <& "pier">', party: 'Harbour', reference: 'R1' },
  { date: '2026-11-12', amount: 59252, text: 'CD SETTLEMENT 1011', party: '', reference: 'R2' },
];
const STATEMENT = {
  id: 'S1',
  iban: 'IE29SKER93115212345678',
  currency: 'EUR',
  opening: 100000,
  from: '2026-11-01',
  to: '2026-11-12',
  lines: LINES,
};
const XML = [...camt053(STATEMENT)].join('');
const camt = (xml: string, size?: number) => read(readCamt(bytes(xml, size)));

describe('camt.053', () => {
  test('head, lines and end, however the bytes are cut', async () => {
    for (const size of [1 << 20, 97, 7, 1]) {
      const { records, findings } = await camt(XML, size);
      expect(findings).toEqual([]);
      expect(records).toEqual([
        { kind: 'statement', reference: 'S1', account: STATEMENT.iban, currency: 'EUR', opening: 100000 },
        expect.objectContaining({
          amount: -85000,
          text: 'SO RENT <& "pier">',
          counterparty: 'Harbour',
          reference: 'R1',
        }),
        expect.objectContaining({ amount: 59252, bookDate: '2026-11-12', reference: 'R2' }),
        { kind: 'end', account: STATEMENT.iban, closing: 74252, from: '2026-11-02', to: '2026-11-12' },
      ]);
    }
  });

  test('a namespace prefix and version 02’s status are read too', async () => {
    const old = XML.replace(/<(\/?)([A-Z])/g, '<$1n:$2')
      .replace('xmlns=', 'xmlns:n=')
      .replaceAll('<n:Sts><n:Cd>BOOK</n:Cd></n:Sts>', '<n:Sts>BOOK</n:Sts>');
    const { records, findings } = await camt(old);
    expect(findings).toEqual([]);
    expect(records).toHaveLength(4);
  });

  test('pending entries are no part of the balance', async () => {
    const pending = XML.replace(
      '<Ntry>',
      '<Ntry><Amt Ccy="EUR">9.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Sts><Cd>PDNG</Cd></Sts></Ntry><Ntry>',
    );
    expect((await camt(pending)).records).toHaveLength(4);
  });

  const file = (code: string, more = {}) => [expect.objectContaining({ scope: 'file', code, ...more })];
  test.each([
    ['truncated', XML.slice(0, XML.length - 60), 'truncated', {}],
    ['with a DOCTYPE', XML.replace('<Document', '<!DOCTYPE x [<!ENTITY a "b">]><Document'), 'doctype', {}],
    ['with an entity', XML.replace('CD SETTLEMENT', '&lol; CD'), 'not-xml', {}],
    ['that does not foot', XML.replace('742.52', '742.53'), 'does-not-foot', { expected: '742.52', found: '742.53' }],
    [
      'in two currencies',
      XML.replace('<Amt Ccy="EUR">592.52', '<Amt Ccy="GBP">592.52'),
      'other-currency',
      { expected: 'EUR', found: 'GBP' },
    ],
    ['without a closing balance', XML.replace('CLBD', 'CLAV'), 'missing-element', { field: 'Bal (CLBD)' }],
    ['with a bad date', XML.replace('<Dt>2026-11-12</Dt></BookgDt>', '<Dt>2026-11-32</Dt></BookgDt>'), 'bad-date', {}],
    ['that is another document', '<Document><CstmrPmtStsRpt/></Document>', 'not-a-statement', {}],
    ['that is no XML', 'hello', 'not-xml', {}],
    ['that is empty', '', 'empty-file', {}],
  ])('a file %s is refused as a whole', async (_what, xml, code, more) => {
    const { findings } = await camt(xml);
    expect(findings).toEqual(file(code, more));
    expect(findingWords(findings[0]!).next).not.toBe('');
  });
});

test('an invoice that is due before it is issued is refused with its number', async () => {
  const text = 'Number,Payer,Issued,Due,Currency,Item,Net,Tax code\nKS-1,P,2026-11-02,2026-11-01,EUR,repair,5.00,S23\n';
  const { findings } = await read(readInvoicesCsv(bytes(text)));
  expect(findings).toEqual([expect.objectContaining({ code: 'dates-reversed', subject: 'KS-1', line: 2 })]);
});

describe('any bytes end in records or findings', () => {
  const readers = { readCardDeskCsv, readInvoicesCsv, readCamt };
  const seeds = {
    readCardDeskCsv: HEAD,
    readInvoicesCsv: 'Number,Payer,Issued,Due,Currency,Item,Net,Tax code\n',
    readCamt: XML,
  };
  test.each(Object.keys(readers) as (keyof typeof readers)[])('%s', async (name) => {
    await fc.assert(
      fc.asyncProperty(fc.uint8Array({ maxLength: 200 }), fc.nat(), fc.nat(600), async (junk, at, cut) => {
        const seed = new TextEncoder().encode(seeds[name]);
        const place = at % (seed.length + 1);
        const mixed = new Uint8Array([...seed.subarray(0, place), ...junk, ...seed.subarray(place + (cut % 50))]);
        const { findings } = await read<unknown>(readers[name](bytes(mixed, 64)));
        for (const finding of findings) expect(findingWords(finding).what.length).toBeGreaterThan(5);
      }),
      { numRuns: 250 },
    );
  });
});
