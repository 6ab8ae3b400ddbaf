import type { StatementFormat } from '@/formats/statements';
import { readSample } from './read-samples';
import { IBAN } from './statement-files';

type Told = Exclude<StatementFormat, 'table'>;
const code = async (format: Told, text: string) => (await readSample(format, text)).findings[0]?.code ?? 'read';
/** A file of these records, whose totals and counts are worked out, so that only their order can be wrong. */
const bai2 = (...records: string[]) => `${records.join('\n')}\n`;

const FILE = '01,S,R,261112,0700,1,,,2/';
const GROUP = '02,R,S,1,261112,,EUR,2/';
const ACCOUNT = '03,93115212345678,EUR/';
const LINE = '16,165,500,Z,B1,R1,CARDS/';

describe('records of BAI2 stand in one another', () => {
  const END = ['49,500,3/', '98,500,1,5/', '99,500,1,7/'];
  test('a whole file is read', async () => {
    expect(await code('bai2', bai2(FILE, GROUP, ACCOUNT, LINE, ...END))).toBe('read');
  });

  test.each<[string, string[], string]>([
    ['a group before its file', [GROUP, ACCOUNT, LINE, ...END], 'missing-element'],
    ['an account before its group', [FILE, ACCOUNT, LINE, ...END], 'missing-element'],
    ['a movement before its account', [FILE, GROUP, LINE, ...END], 'missing-element'],
    ['a trailer of an account that is not open', [FILE, GROUP, '49,0,2/', '98,0,0,3/', '99,0,1,5/'], 'missing-element'],
    ['a trailer of a group that is not open', [FILE, '98,0,0,2/', '99,0,0,3/'], 'missing-element'],
    ['a second group in the first', [FILE, GROUP, GROUP], 'truncated'],
    ['a second account in the first', [FILE, GROUP, ACCOUNT, ACCOUNT], 'truncated'],
    ['a group that ends before its account', [FILE, GROUP, ACCOUNT, LINE, '98,500,1,4/'], 'truncated'],
    ['a file that ends before its group', [FILE, GROUP, '99,0,0,3/'], 'truncated'],
    ['something after the end', [FILE, GROUP, ACCOUNT, LINE, ...END, FILE], 'not-a-statement'],
    ['a continuation of nothing', ['88,more/', FILE], 'not-a-statement'],
    ['a record that is none', [FILE, '55,x/'], 'not-a-statement'],
    ['text in place of a record', [FILE, 'Dear customer'], 'not-a-statement'],
    ['an account without a number', [FILE, GROUP, '03,,EUR/'], 'missing-element'],
    ['a currency that is none', [FILE, GROUP, '03,93115212345678,EURO/'], 'bad-currency'],
    ['a day that is none', [FILE, '02,R,S,1,261332,,EUR,2/'], 'bad-date'],
    ['an amount with a point', [FILE, GROUP, ACCOUNT, '16,165,5.00,Z,B1,R1,CARDS/'], 'bad-amount'],
    ['no amount', [FILE, GROUP, ACCOUNT, '16,165,,Z,B1,R1,CARDS/'], 'bad-amount'],
    ['a type beyond all types', [FILE, GROUP, ACCOUNT, '16,1650,500,Z,B1,R1,CARDS/'], 'bad-kind'],
    ['nothing', [], 'empty-file'],
  ])('%s is refused', async (_what, records, expected) => {
    const found = await code('bai2', bai2(...records));
    // Where nothing is there at all, each reader has its own word for it.
    expect(records.length === 0 ? ['empty-file', 'not-a-statement'] : [expected]).toContain(found);
  });

  test.each<[string, string, number, string]>([
    ['money that is free at once', '16,165,500,0,B1,R1,CARDS/', 500, 'CARDS'],
    ['money that is free on some days', '16,165,500,S,100,200,200,B1,R1,CARDS/', 500, 'CARDS'],
    ['money with a value day', '16,165,500,V,261114,,B1,R1,CARDS/', 500, 'CARDS'],
    ['money spread over days', '16,165,500,D,2,0,300,1,200,B1,R1,CARDS/', 500, 'CARDS'],
    ['money that left', '16,475,500,Z,B1,R1,RENT/', -500, 'RENT'],
    ['text with commas and odd spaces', '16,165,500,Z,B1,R1,CARDS,  OF   MONDAY/', 500, 'CARDS, OF MONDAY'],
  ])('%s', async (_what, line, amount, text) => {
    const { lines, findings } = await readSample('bai2', bai2(FILE, GROUP, ACCOUNT, line, ...END));
    expect(findings).toEqual([]);
    expect(lines.map((one) => [one.amount, one.text, one.bankId, one.reference])).toEqual([[amount, text, 'B1', 'R1']]);
    if (line.includes('V,261114')) expect(lines[0]!.valueDate).toBe('2026-11-14');
  });

  test('what is only said beside the movements counts for the totals and is no line', async () => {
    const { lines, findings } = await readSample(
      'bai2',
      bai2(FILE, GROUP, ACCOUNT, LINE, '16,890,300,Z,B2,R2,NOTE/', '49,800,4/', '98,800,1,6/', '99,800,1,8/'),
    );
    expect(findings).toEqual([]);
    expect(lines).toHaveLength(1);
  });

  test('accounts without a currency have that of their group, and groups without one that of the format', async () => {
    const { records } = await readSample(
      'bai2',
      bai2(FILE, '02,R,S,1,261112,,,2/', '03,93115212345678,/', LINE, '49,500,3/', '98,500,1,5/', '99,500,1,7/'),
    );
    expect(records[0]).toMatchObject({ kind: 'statement', currency: 'USD' });
  });
});

describe('tags of MT940 in their order', () => {
  const HEAD = `:20:X\n:25:${IBAN}\n:28C:1/1\n:60F:C261101EUR100,\n`;
  test.each<[string, string, string]>([
    [
      'a movement before the opening balance',
      `:20:X\n:25:${IBAN}\n:61:261102C1,NTRFX\n:62F:C261102EUR1,\n`,
      'missing-element',
    ],
    ['a closing balance in another currency', `${HEAD}:62F:C261102USD100,\n`, 'other-currency'],
    ['a second opening balance', `${HEAD}:60F:C261101EUR100,\n:62F:C261102EUR100,\n`, 'not-a-statement'],
    ['an amount of letters', `${HEAD}:61:261102Cone,NTRFX\n:62F:C261102EUR101,\n`, 'not-a-statement'],
    ['a mark that is neither in nor out', `${HEAD}:61:261102Q1,NTRFX\n:62F:C261102EUR101,\n`, 'not-a-statement'],
    ['no end', `${HEAD}:61:261102C1,NTRFX\n`, 'truncated'],
  ])('%s is refused', async (_what, text, expected) => {
    expect(await code('mt940', text)).toBe(expected);
  });

  test('a day of another year than its value day is in the year that is near', async () => {
    const { lines } = await readSample(
      'mt940',
      `:20:X\n:25:${IBAN}\n:60F:C251230EUR100,\n:61:2601021231C1,NTRFX\n:62F:C260102EUR101,\n-\n`,
    );
    expect(lines.map(({ bookDate, valueDate }) => [bookDate, valueDate])).toEqual([['2025-12-31', '2026-01-02']]);
  });
});

describe('camt entries', () => {
  const document = (entries: string, closing: string) =>
    `<Document><BkToCstmrStmt><Stmt><Id>1</Id><Acct><Id><IBAN>${IBAN}</IBAN></Id><Ccy>EUR</Ccy></Acct>` +
    '<Bal><Tp><CdOrPrtry><Cd>OPBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">100.00</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2026-11-01</Dt></Dt></Bal>' +
    `<Bal><Tp><CdOrPrtry><Cd>CLBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">${closing}</Amt><CdtDbtInd>CRDT</CdtDbtInd><Dt><Dt>2026-11-02</Dt></Dt></Bal>` +
    `${entries}</Stmt></BkToCstmrStmt></Document>`;
  const entry = (status: string, amount = '5.00', mark = 'CRDT') =>
    `<Ntry><Amt Ccy="EUR">${amount}</Amt><CdtDbtInd>${mark}</CdtDbtInd><Sts>${status}</Sts><BookgDt><Dt>2026-11-02</Dt></BookgDt></Ntry>`;

  test.each([
    ['BOOK', 1],
    ['<Cd>BOOK</Cd>', 1],
    ['PDNG', 0],
    ['<Cd>INFO</Cd>', 0],
    ['FUTR', 0],
  ])('of status %s: %i lines', async (status, count) => {
    const { lines, findings } = await readSample('camt', document(entry(status), count === 1 ? '105.00' : '100.00'));
    expect(findings).toEqual([]);
    expect(lines).toHaveLength(count);
  });

  test.each<[string, string, string]>([
    ['a status nobody knows', entry('DONE'), 'bad-kind'],
    ['a mark nobody knows', entry('BOOK', '5.00', 'BOTH'), 'bad-kind'],
    ['no mark', entry('BOOK', '5.00', ''), 'missing-element'],
    ['an amount below zero', entry('BOOK', '-5.00'), 'bad-amount'],
    ['an amount of three decimals', entry('BOOK', '5.001'), 'bad-amount'],
    ['another currency', entry('BOOK').replace('EUR', 'USD'), 'other-currency'],
  ])('%s is refused', async (_what, entries, expected) => {
    expect(await code('camt', document(entries, '105.00'))).toBe(expected);
  });
});
