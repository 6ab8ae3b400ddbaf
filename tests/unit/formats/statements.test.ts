import { isAccount, statementFormat, type StatementFormat } from '@/formats/statements';
import { readSample as read, readTableSample as table } from './read-samples';
import { BAI2, CAMT054, CSV_NEWEST_FIRST, IBAN, MT940, OFX1, OFX2 } from './statement-files';

const OF: readonly [Exclude<StatementFormat, 'table'>, string][] = [
  ['mt940', MT940],
  ['ofx', OFX1],
  ['ofx', OFX2],
  ['bai2', BAI2],
  ['camt', CAMT054],
];

describe('a file is told by its content', () => {
  test.each(OF)('%s', async (format, text) => {
    expect(statementFormat(new TextEncoder().encode(text))).toBe(format);
    expect(statementFormat(new TextEncoder().encode(`\uFEFF\n  ${text}`))).toBe(format);
    const { findings, lines } = await read(format, text);
    expect(findings).toEqual([]);
    expect(lines.length).toBeGreaterThan(0);
  });
  test('anything else is a table', () => {
    expect(statementFormat(new TextEncoder().encode(CSV_NEWEST_FIRST))).toBe('table');
    expect(statementFormat(new Uint8Array())).toBe('table');
  });
  test.each(OF)('%s reads the same in pieces of any size', async (format, text) => {
    const whole = (await read(format, text)).records;
    for (const size of [1, 2, 7, 64]) expect((await read(format, text, size)).records).toEqual(whole);
    expect((await read(format, text.replace(/\n/g, '\r\n'))).lines.map((line) => line.amount)).toEqual(
      whole.flatMap((record) => (record.kind === 'line' ? [record.amount] : [])),
    );
  });
});

describe('MT940', () => {
  test('lines with their signs, days, references and whole text', async () => {
    const { records, lines } = await read('mt940', MT940);
    expect(records[0]).toMatchObject({ kind: 'statement', reference: 'STMT-11', currency: 'EUR', opening: 100000 });
    expect(lines.map((line) => [line.bookDate, line.amount, line.bankId])).toEqual([
      ['2026-11-02', -85000, 'BK-1'],
      ['2026-11-12', 59252, 'BK-2'],
      // Booked on New Year's Day of the year after its value day; a debit that was taken back.
      ['2027-01-01', 300, 'BK-3'],
    ]);
    expect(lines[1]).toMatchObject({ counterparty: 'CARD DESK LTD', reference: 'E2E-77' });
    expect(lines[1]!.text).toContain('CD SETTLEMENT REF P-2231 KITTIWAKE SAILS');
    expect(lines[0]).toMatchObject({ text: 'RENT OF THE SLIP NOVEMBER', reference: 'RENT11' });
    expect(records.at(-1)).toMatchObject({ kind: 'end', closing: 74552 });
  });
  test('several accounts and pages in one file; parts between slashes', async () => {
    const page = (account: string, no: number, from: string, to: string, tag: string, amount: string) =>
      `:20:A\n:25:${account}\n:28C:1/${no}\n:60${tag}:C261101EUR${from}\n:61:261102C${amount}NTRFX\n:86:/EREF/E-1/NAME/P. STRAND/REMI/DUES 2026\n:62${tag}:C261102EUR${to}\n-\n`;
    const text =
      page('111111', 1, '0,', '5,00', 'F', '5,') +
      page('111111', 2, '5,', '7,5', 'M', '2,5') +
      page('222222', 1, '1,', '2,', 'F', '1,');
    const { records, lines, findings } = await read('mt940', text);
    expect(findings).toEqual([]);
    expect(records.filter((record) => record.kind === 'end')).toHaveLength(3);
    expect(lines.map((line) => [line.account, line.amount])).toEqual([
      ['111111', 500],
      ['111111', 250],
      ['222222', 100],
    ]);
    expect(lines[0]).toMatchObject({ counterparty: 'P. STRAND', reference: 'E-1' });
    expect(lines[0]!.text).toContain('DUES 2026');
  });
  test.each([
    ['closing balance', MT940.replace('745,52', '745,53'), 'does-not-foot'],
    ['end', MT940.slice(0, MT940.indexOf(':62F:')), 'truncated'],
    ['opening balance', MT940.replace(/:60F:.*\n/, ''), 'missing-element'],
    ['account', MT940.replace(/:25:.*\n/, ''), 'missing-element'],
    ['day', MT940.replace(':61:261102', ':61:261332'), 'bad-date'],
    ['movement', MT940.replace('D850,NMSC', 'X850,NMSC'), 'not-a-statement'],
    ['currency', MT940.replace(':62F:C261231EUR', ':62F:C261231GBP'), 'other-currency'],
    ['beginning', `hello\n${MT940.slice(MT940.indexOf(':20:'))}`, 'not-a-statement'],
  ])('a wrong %s refuses the whole file', async (_what, text, code) => {
    expect((await read('mt940', text)).findings).toMatchObject([{ code, scope: 'file' }]);
  });
});

describe('OFX', () => {
  test('1.x: leaves without ends, entities, days with a zone', async () => {
    const { records, lines } = await read('ofx', OFX1);
    expect(records[0]).toMatchObject({ account: IBAN, currency: 'EUR', opening: null });
    expect(lines[0]).toMatchObject({
      bookDate: '2026-11-02',
      amount: -85000,
      counterparty: 'SLIP & YARD',
      bankId: 'BK-1',
      text: 'SLIP & YARD RENT OF THE SLIP NOVEMBER',
    });
    expect(records.at(-1)).toMatchObject({ kind: 'end', closing: 74252 });
  });
  test('2.x: a card’s statement, a payee in parts, an empty leaf', async () => {
    const { records, lines } = await read('ofx', OFX2);
    expect(records[0]).toMatchObject({ account: '40001' });
    expect(lines).toMatchObject([{ amount: -1250, counterparty: 'CHANDLERY', text: 'CHANDLERY' }]);
  });
  test('a repeated id does not swallow a line', async () => {
    const { lines } = await read('ofx', OFX1.replace('<FITID>BK-2', '<FITID>BK-1'));
    expect(lines.map((line) => line.bankId)).toEqual(['BK-1', 'BK-1']);
  });
  test.each([
    ['end', OFX1.slice(0, OFX1.indexOf('</STMTRS>')), 'truncated'],
    ['amount', OFX1.replace('+592.52', 'lots'), 'bad-amount'],
    ['day', OFX1.replace('20261112', '20261399'), 'bad-date'],
    ['currency', OFX1.replace('<CURDEF>EUR', '<CURDEF>euro'), 'bad-currency'],
    ['DOCTYPE', OFX2.replace('<OFX>', '<!DOCTYPE OFX [<!ENTITY a "b">]><OFX>'), 'doctype'],
    ['DOCTYPE in the older kind', OFX1.replace('<OFX>', '<!DOCTYPE x><OFX>'), 'doctype'],
    ['account', OFX1.replace(`<ACCTID>${IBAN}`, ''), 'missing-element'],
    ['document', '<OFX><SIGNONMSGSRSV1></SIGNONMSGSRSV1></OFX>', 'not-a-statement'],
  ])('a wrong %s refuses the whole file', async (_what, text, code) => {
    expect((await read('ofx', text)).findings).toMatchObject([{ code, scope: 'file' }]);
  });
});

describe('BAI2', () => {
  test('groups, accounts, continuations, kinds of funds', async () => {
    const { records, lines } = await read('bai2', BAI2);
    expect(records[0]).toMatchObject({ account: '93115212345678', currency: 'EUR', opening: 100000 });
    expect(lines).toMatchObject([
      {
        bookDate: '2026-11-12',
        valueDate: '2026-11-02',
        amount: -85000,
        text: 'RENT OF THE SLIP NOVEMBER, BERTH 4',
        reference: 'RENT11',
        bankId: 'BK-1',
      },
      { valueDate: '2026-11-12', amount: 59252, text: 'CD SETTLEMENT P-2231', reference: 'E2E-77' },
    ]);
    expect(records.at(-1)).toMatchObject({ kind: 'end', closing: 74252 });
  });
  test.each([
    ['total of an account', BAI2.replace('49,318504', '49,318505'), 'control-total'],
    ['count of an account', BAI2.replace('49,318504,5', '49,318504,6'), 'control-total'],
    ['total of a group', BAI2.replace('98,318504,1,7', '98,318503,1,7'), 'control-total'],
    ['count of a group', BAI2.replace('98,318504,1,7', '98,318504,1,8'), 'control-total'],
    ['count of the file', BAI2.replace('99,318504,1,9', '99,318504,2,9'), 'control-total'],
    ['balance', BAI2.replace('015,74252', '015,74253').replace(/318504/g, '318505'), 'does-not-foot'],
    ['end', BAI2.slice(0, BAI2.indexOf('99,')), 'truncated'],
    ['order', BAI2.replace(/^02.*\n/m, ''), 'missing-element'],
    ['record', BAI2.replace('16,165', 'XX,165'), 'not-a-statement'],
    ['kind', BAI2.replace('16,165', '16,16'), 'bad-kind'],
  ])('a wrong %s refuses the whole file', async (_what, text, code) => {
    expect((await read('bai2', text)).findings).toMatchObject([{ code, scope: 'file' }]);
  });
});

describe('camt.054', () => {
  test('a sum tells its payments; one that came back tells why', async () => {
    const { records, lines } = await read('camt', CAMT054);
    expect(records[0]).toMatchObject({ kind: 'statement', opening: null, account: IBAN });
    expect(records.at(-1)).toMatchObject({ kind: 'end', closing: null });
    expect(lines[0]!.details).toMatchObject([
      { amount: 24600, counterparty: 'A. Tern', reference: 'KS-1', text: 'KS-1' },
      { amount: 6150, counterparty: 'B. Wrack', reference: 'KS-2' },
    ]);
    expect(lines[1]).toMatchObject({ amount: -2800, details: [], reference: 'MND-3', text: 'MND-3 returned AM04' });
  });
  test('payments that do not come to their sum are no parts of it', async () => {
    const { lines, findings } = await read('camt', CAMT054.replace('<Amt Ccy="EUR">61.50', '<Amt Ccy="EUR">61.51'));
    expect([findings, lines[0]!.details]).toEqual([[], []]);
    expect(lines[0]!.text).toContain('KS-2');
  });
});

describe('a bank’s table', () => {
  test('is guessed: titles above, newest first, decimal comma, its own words', async () => {
    const { sniffed, records, lines, findings } = await table(CSV_NEWEST_FIRST);
    expect(findings).toEqual([]);
    expect(sniffed.profile).toMatchObject({
      newestFirst: true,
      decimal: ',',
      dateOrder: 'DMY',
      above: 1,
      texts: ['Verwendungszweck'],
    });
    expect(lines.map((line) => [line.bookDate, line.amount, line.text])).toEqual([
      ['2026-12-31', 300, 'Zinsen'],
      ['2026-11-12', 59252, 'CD SETTLEMENT P-2231'],
      ['2026-11-02', -85000, 'Miete der Slipanlage'],
    ]);
    expect(records.at(-1)).toMatchObject({
      kind: 'end',
      opening: 100000,
      closing: 74552,
      from: '2026-11-02',
      to: '2026-12-31',
    });
  });
  test('money in and out in columns of their own; a mark in place of a sign', async () => {
    const columns = await table(
      'Date,Description,Money in,Money out\n2026-11-02,RENT,,850.00\n2026-11-12,CD,592.52,\n',
      { account: IBAN },
    );
    expect(columns.lines.map((line) => line.amount)).toEqual([-85000, 59252]);
    const marked = await table('Date,Details,Amount,D/C\n2026-11-02,RENT,850.00,D\n2026-11-12,CD,592.52,C\n', {
      account: IBAN,
    });
    expect(marked.lines.map((line) => line.amount)).toEqual([-85000, 59252]);
  });
  test('several accounts, mixed, each with its own balance', async () => {
    const { records, findings } = await table(
      'Account,Booked,Amount,Currency,Text,Balance\nA1,2026-11-02,-1.00,EUR,x,9.00\nB2,2026-11-02,5.00,EUR,y,5.00\nA1,2026-11-03,2.00,EUR,z,11.00\n',
    );
    expect(findings).toEqual([]);
    const ends = records.flatMap((record) =>
      record.kind === 'end' ? [[record.account, record.opening, record.closing]] : [],
    );
    expect(ends).toEqual([
      ['A1', 1000, 1100],
      ['B2', 0, 500],
    ]);
  });
  test.each([
    [
      'balance',
      'Date,Text,Amount,Balance,Account\n2026-11-02,a,1.00,1.00,A\n2026-11-03,b,1.00,3.00,A\n',
      'balance-breaks',
    ],
    ['amount', 'Date,Text,Amount,Account\n2026-11-02,a,1.00,A\n2026-11-03,b,one,A\n', 'bad-amount'],
    ['day', 'Date,Text,Amount,Account\n2026-11-02,a,1.00,A\n2026-02-30,b,1.00,A\n', 'bad-date'],
    [
      'currency',
      'Date,Text,Amount,Account,Currency\n2026-11-02,a,1.00,A,EUR\n2026-11-03,b,1.00,A,GBP\n',
      'other-currency',
    ],
    ['account', 'Date,Text,Amount\n2026-11-02,a,1.00\n', 'no-account'],
  ])('a wrong %s refuses the whole file, and says where', async (_what, text, code) => {
    const { findings } = await table(text);
    expect(findings).toMatchObject([{ code, scope: 'file' }]);
    expect(findings[0]!.line).not.toBeNull();
  });
});

test('accounts as files name them', () => {
  for (const named of [
    IBAN,
    'ie29 sker 9311 5212 3456 78',
    `SKERIE2D/${IBAN}`,
    `${IBAN}EUR`,
    '93115212345678',
    '0012345678'.slice(2),
  ]) {
    expect([named, isAccount(IBAN, named)]).toEqual([named, true]);
  }
  for (const named of ['', '78', '345678'.slice(2), 'IE29SKER93115212345679', 'XX', '0000']) {
    expect([named, isAccount(IBAN, named)]).toEqual([named, false]);
  }
});
