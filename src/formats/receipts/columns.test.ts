import type { ByteSource, Finding } from '../finding';
import { csvRows } from '../table/rows';
import { headerFingerprint, REFUSED_BECAUSE } from '../table/header';
import { sniffDelimiterOf } from '../table/survey';
import { receiptProfile, type ReceiptProfile } from './profile';
import { readReceipts } from './receipts-table';
import type { ReceiptRecord } from './record';
import { sniffReceipts, type Sniffed } from './sniff';

const source = (text: string) => (): ByteSource =>
  (async function* () {
    yield await Promise.resolve(new TextEncoder().encode(text));
  })();

async function sniffed(text: string): Promise<Sniffed> {
  const delimiter = await sniffDelimiterOf(source(text)());
  return sniffReceipts(csvRows(source(text)(), delimiter), delimiter, { zone: 'UTC', currency: 'EUR' });
}

async function read(text: string, change: Partial<ReceiptProfile> = {}) {
  const { profile } = await sniffed(text);
  const records: ReceiptRecord[] = [];
  const findings: Finding[] = [];
  for await (const batch of readReceipts(csvRows(source(text)(), profile.delimiter), { ...profile, ...change })) {
    records.push(...batch.records);
    findings.push(...batch.findings);
  }
  return { records, findings, profile };
}

describe('money in and money out in columns of their own', () => {
  const TEXT = [
    'Ref,When,Type,Money in,Money out,Fee,From',
    'W-1,2026-11-05,receipt,£24.00,,0.41,Ann',
    'W-2,2026-11-06,refund,,£4.00,,Ann',
    'W-3,2026-11-07,payout,,19.59,,',
    'W-4,2026-11-08,receipt,,,,',
    'W-5,2026-11-09,receipt,(3.00),,,',
  ].join('\n');

  test('are told by their names, and make one amount with its sign', async () => {
    const { records, findings, profile } = await read(TEXT);
    expect(profile.columns).toMatchObject({ paidIn: 'Money in', paidOut: 'Money out', fee: 'Fee' });
    expect(profile.columns.gross).toBeUndefined();
    expect(records.map(({ id, kind, gross, fee }) => [id, kind, gross, fee])).toEqual([
      ['W-1', 'receipt', 2400, 41],
      ['W-2', 'refund', -400, null],
      ['W-3', 'payout', -1959, null],
    ]);
    expect(findings.map(({ code, line }) => [code, line])).toEqual([
      ['missing-value', 5],
      ['wrong-sign', 6],
    ]);
  });

  test('without a column of kinds, what went out is a refund', async () => {
    const text = 'Ref,When,Credit,Debit\nA,2026-11-05,24.00,\nB,2026-11-06,,4.00\nC,2026-11-06,,-4.00';
    const { records } = await read(text);
    expect(records.map(({ kind, gross }) => [kind, gross])).toEqual([
      ['receipt', 2400],
      ['refund', -400],
      ['refund', -400],
    ]);
  });
});

describe('kinds of rows', () => {
  const KINDS = [
    'Id\tDate\tType\tAmount\tCharge\tRefund of',
    '1\t05.11.2026\tsale\t10,00\t-0,30\t',
    '2\t06.11.2026\trefund\t4,00\t0,00\t1',
    '3\t07.11.2026\tdispute\t-10,00\t-15,00\t1',
    '4\t13.11.2026\tdispute\t10,00\t0,00\t1',
    '5\t14.11.2026\tpayout\t0,70\t\t',
    '6\t14.11.2026\tfee\t-2,00\t\t',
  ].join('\n');

  test('are guessed by plain words; a chargeback keeps its sign, a refund and a payout go out', async () => {
    const { records, profile } = await read(KINDS);
    expect(profile).toMatchObject({
      delimiter: '\t',
      decimal: ',',
      dateOrder: 'DMY',
      feeSign: 'minus',
      chargebacks: ['dispute'],
      refunds: ['refund'],
      payouts: ['payout'],
      skipped: ['fee'],
    });
    expect(records.map(({ id, kind, gross, fee, refundOf }) => [id, kind, gross, fee, refundOf])).toEqual([
      ['1', 'receipt', 1000, 30, ''],
      ['2', 'refund', -400, 0, '1'],
      ['3', 'chargeback', -1000, 1500, '1'],
      ['4', 'chargeback', 1000, 0, '1'],
      ['5', 'payout', -70, null, ''],
    ]);
  });

  test('said otherwise are read otherwise', async () => {
    const { records } = await read(KINDS, { chargebacks: [], refunds: ['refund', 'dispute'], skipped: [] });
    expect(records.map(({ kind }) => kind)).not.toContain('chargeback');
    expect(records.find(({ id }) => id === '3')).toMatchObject({ kind: 'refund', gross: -1000 });
  });
});

describe('net, gross and fee', () => {
  test('make the third of any two, and must agree where all three stand', async () => {
    const text = [
      'Id,Date,Gross,Fee,Net',
      '1,2026-11-05,10.00,0.30,9.70',
      '2,2026-11-05,10.00,,9.70',
      '3,2026-11-05,,0.30,9.70',
      '4,2026-11-05,10.00,0.30,9.60',
      '5,2026-11-05,10.00,,',
    ].join('\n');
    const { records, findings } = await read(text);
    expect(records.map(({ id, gross, fee }) => [id, gross, fee])).toEqual([
      ['1', 1000, 30],
      ['2', 1000, 30],
      ['3', 1000, 30],
      ['5', 1000, null],
    ]);
    expect(findings).toMatchObject([{ code: 'net-differs', line: 5, expected: '9.70', found: '9.60' }]);
  });
});

describe('a header', () => {
  test('is known whatever its case and spaces, and with the reasons of refused rows behind it', () => {
    const known = headerFingerprint(['Gift no', 'Given on', 'Amount']);
    expect(headerFingerprint([' GIFT_NO ', 'given-on', 'amount', REFUSED_BECAUSE])).toBe(known);
    expect(headerFingerprint(['Given on', 'Gift no', 'Amount'])).not.toBe(known);
  });

  test('kept long ago is read with what was not asked then left as it was', () => {
    const old = {
      columns: { time: 'Day', gross: 'Paid' },
      delimiter: ',',
      above: 0,
      decimal: '.',
      dateOrder: 'YMD',
      zone: 'UTC',
      currency: 'EUR',
      feeSign: 'plus',
      refunds: [],
      payouts: [],
      skipped: [],
    };
    expect(receiptProfile.parse(old)).toEqual({
      ...old,
      chargebacks: [],
      shape: 'receipts',
      tenders: [],
      tips: [],
      taxIn: 'included',
      encoding: 'auto',
    });
    for (const wrong of [
      { delimiter: ':' },
      { currency: 'Euro' },
      { above: -1 },
      { columns: { colour: 'Red' } },
      { encoding: 'morse' },
    ]) {
      expect(receiptProfile.safeParse({ ...old, ...wrong }).success).toBe(false);
    }
  });
});
