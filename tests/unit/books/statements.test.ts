import ExcelJS from 'exceljs';
import { refusalWords } from '@/books/command';
import { undoImport } from '@/books/imports/undo-import';
import { confirmAgain, confirmMatch } from '@/books/matching/confirm';
import { takeApart } from '@/books/matching/take-apart';
import { statementGaps } from '@/books/statements/gaps';
import { statementImporter, statementsFrom } from '@/books/statements/import';
import { lookAtStatement } from '@/books/statements/read-file';
import { pairSame, Rarity, wordsOf } from '@/books/statements/same-line';
import { camt053 } from '@/standins/bank/camt053-writer';
import { BAI2, CAMT054, IBAN, MT940, OFX1 } from '../formats/statement-files';
import { KITTIWAKE } from '../../../demo/kittiwake/books';
import { railOf } from '@/books/today/rail';
import { worklist } from '@/books/today/worklist';
import { statement, useWorld } from './world';

const world = useWorld();

const lines = () => world.books.reader.selectFrom('statement_line').selectAll().orderBy('id').execute();
const amounts = async () => (await lines()).map((line) => line.amount);
const counts = ({ added, known, updated }: { added: number; known: number; updated: number }) => ({
  added,
  known,
  updated,
});
const NOVEMBER_CAMT = [
  ...camt053({
    id: 'S1',
    iban: IBAN,
    currency: 'EUR',
    opening: 100000,
    from: '2026-11-02',
    to: '2026-11-12',
    lines: [
      {
        date: '2026-11-02',
        amount: -85000,
        text: 'RENT OF THE SLIP NOVEMBER',
        counterparty: 'SLIP & YARD',
        reference: 'R1',
      },
      {
        date: '2026-11-12',
        amount: 59252,
        text: 'CD SETTLEMENT REF P-2231 KITTIWAKE',
        counterparty: 'CARD DESK LTD',
        reference: 'R2',
      },
    ],
  } as never),
].join('');
const CSV = `Account,Booked,Amount,Currency,Text,Balance\n${IBAN},2026-11-02,-850.00,EUR,SLIP AND YARD RENT,150.00\n${IBAN},2026-11-12,592.52,EUR,SETTLEMENT P-2231,742.52\n`;

describe('the same days in another format', () => {
  const FILES = {
    camt: NOVEMBER_CAMT,
    csv: CSV,
    ofx: OFX1,
    mt940: MT940.replace('2612310101', '2611151115').replace('C261231', 'C261115'),
    bai2: BAI2.replace(/261112,,EUR/, '261112,,EUR'),
  };
  test.each([
    ['camt', 'csv'],
    ['csv', 'camt'],
    ['camt', 'ofx'],
    ['ofx', 'csv'],
    ['mt940', 'camt'],
    ['camt', 'mt940'],
  ] as const)('%s, then %s: nothing twice, whatever the bank’s words', async (first, second) => {
    await world.bringIn(statementImporter, FILES[first]);
    const before = (await lines()).length;
    const report = await world.bringIn(statementImporter, FILES[second]);
    // The file of MT940 tells one line more than the others.
    expect(counts(report)).toEqual({ added: second === 'mt940' ? 1 : 0, known: 2, updated: 0 });
    expect((await lines()).length).toBe(before + (second === 'mt940' ? 1 : 0));
  });

  test('another payment of the same day and amount is new, though it is told in the same general words', async () => {
    const head = 'Account,Booked,Amount,Currency,Text\n';
    const one = (name: string) => `${IBAN},2026-11-03,50.00,EUR,TRANSFER RECEIVED FROM ${name}\n`;
    const others = Array.from(
      { length: 80 },
      (_, n) => `${IBAN},2026-11-04,${n + 1}.00,EUR,TRANSFER RECEIVED FROM PAYER${n}\n`,
    ).join('');
    await world.bringIn(statementImporter, head + one('ANNA'));
    const report = await world.bringIn(statementImporter, head + one('BEN') + others);
    expect(counts(report)).toEqual({ added: 81, known: 0, updated: 0 });
    // Both told again, in another order and format of words: each is found again.
    const again = await world.bringIn(
      statementImporter,
      'Account,Booked,Amount,Currency,Text\n' +
        `${IBAN},2026-11-03,50.00,EUR,BEN PAID\n${IBAN},2026-11-03,50.00,EUR,ANNA PAID\n`,
    );
    expect(counts(again)).toEqual({ added: 0, known: 2, updated: 0 });
  });

  test('twice the very same line is two lines, and stays two', async () => {
    const csv = `Account,Booked,Amount,Currency,Text\n${IBAN},2026-11-03,5.00,EUR,COFFEE\n${IBAN},2026-11-03,5.00,EUR,COFFEE\n`;
    expect((await world.bringIn(statementImporter, csv)).added).toBe(2);
    expect((await world.bringIn(statementImporter, csv)).added).toBe(0);
  });
});

test('a notification gives its payments to the line that the statement told as a sum', async () => {
  const csv = `Account,Booked,Amount,Currency,Text,Reference\n${IBAN},2026-11-12,307.50,EUR,COLLECTED TRANSFERS,BK-9\n`;
  await world.bringIn(statementImporter, csv);
  const report = await world.bringIn(statementImporter, CAMT054);
  expect(counts(report)).toEqual({ added: 1, known: 0, updated: 1 });
  const details = await world.books.reader.selectFrom('statement_line_detail').selectAll().execute();
  expect(details).toMatchObject([{ amount: 24600, counterparty: 'A. Tern' }, { amount: 6150 }]);
  expect(details[0]!.line_id).toBe((await lines())[0]!.id);
  expect(counts(await world.bringIn(statementImporter, CAMT054))).toEqual({ added: 0, known: 2, updated: 0 });
});

test('several accounts in one file go each to its own; what is not ours is left out and said', async () => {
  const second = 'IE64IRCE92050112345678';
  await world.begin({
    accounts: [
      ...KITTIWAKE.accounts,
      { ...KITTIWAKE.accounts.find(({ code }) => code === '1010')!, code: '1011', name: 'Savings' },
    ],
    bankAccounts: [...KITTIWAKE.bankAccounts, { account: '1011', iban: second }],
  } as never);
  const row = (account: string, cents: string, balance: string) =>
    `${account},2026-11-02,${cents},EUR,X${cents},${balance}\n`;
  const report = await world.bringIn(
    statementImporter,
    'Account,Booked,Amount,Currency,Text,Balance\n' +
      row(IBAN, '1.00', '1.00') +
      row(second, '2.00', '2.00') +
      row('IE00OTHER', '9.00', '9.00') +
      row(IBAN, '3.00', '4.00'),
  );
  expect(report.fileFinding).toBeNull();
  expect(report.findings).toMatchObject([{ code: 'other-account', found: 'IE00OTHER', scope: 'record' }]);
  const of = await world.books.reader
    .selectFrom('statement_line')
    .innerJoin('account', 'account.id', 'statement_line.account_id')
    .select(['code', 'amount'])
    .orderBy('statement_line.id')
    .execute();
  expect(of.map(({ code, amount }) => [code, amount])).toEqual([
    ['1010', 100],
    ['1011', 200],
    ['1010', 300],
  ]);
});

test('days between two statements that no file tells are shown, with what moved in them', async () => {
  const page = (from: string, opening: string, closing: string, amount: string) =>
    `:20:S\n:25:${IBAN}\n:60F:C${from}EUR${opening}\n:61:${from}C${amount}NTRFX${amount}\n:62F:C${from}EUR${closing}\n-\n`;
  await world.bringIn(statementImporter, page('261102', '10,', '15,', '5,'));
  await world.bringIn(statementImporter, page('261103', '15,', '16,', '1,'));
  expect(await statementGaps(world.books.reader)).toEqual([]);
  await world.bringIn(statementImporter, page('261109', '20,', '21,', '1,'));
  expect(await statementGaps(world.books.reader)).toMatchObject([
    { after: { day: '2026-11-03', closing: 1600 }, before: { day: '2026-11-09', opening: 2000 }, missing: 400 },
  ]);
  const work = await worklist(world.books.reader, await railOf(world.books.reader, new Date()));
  expect(work.map(({ title, amount }) => [title, amount])).toContainEqual([
    'No statement of 1010 Current account from 3 Nov to 9 Nov',
    400,
  ]);
  await world.bringIn(statementImporter, page('261105', '16,', '20,', '4,'));
  expect(await statementGaps(world.books.reader)).toEqual([]);
});

test('a statement is taken back whole, with its payments, and comes in again', async () => {
  const report = await world.bringIn(statementImporter, CAMT054);
  await world.must(undoImport, { run: report.run! });
  expect([await amounts(), await world.count('statement'), await world.count('statement_line_detail')]).toEqual([
    [],
    0,
    0,
  ]);
  expect(counts(await world.bringIn(statementImporter, CAMT054))).toEqual({ added: 2, known: 0, updated: 0 });
});

test('a statement whose matches were taken apart again is taken back whole; while one is matched it stays', async () => {
  const { run } = await world.bringIn(
    statementImporter,
    statement(0, ['2026-11-02', 500, 'A'], ['2026-11-03', 700, 'B']),
  );
  const line = await world.id('statement_line', 'A');
  const before = await world.balances();
  const { match } = await world.must(confirmMatch, { line, parts: [], restTo: await world.account('4010') });
  const refused = await world.run(undoImport, { run: run! });
  expect(refused).toMatchObject({
    ok: false,
    refusal: { code: 'import-rested-on', on: ['1 of its lines is matched'] },
  });
  if (!refused.ok) expect(refusalWords(refused.refusal).next).toContain('Take those matches apart');
  await world.must(takeApart, { match });
  await world.must(undoImport, { run: run! });
  expect([await world.count('statement_line'), await world.balances()]).toEqual([0, before]);
  // Its two entries stay; what it was made of cannot be confirmed again without the line.
  expect(await world.refusal(confirmAgain, { matches: [match] })).toBe('not-found');
});

test('a line of a day that has not come is refused with the day; over a long weekend it is taken', async () => {
  const report = await world.bringIn(
    statementImporter,
    statement(0, ['2026-11-09', 300, 'PAST'], ['2026-11-20', 100, 'WEEKEND'], ['2026-11-21', 200, 'TOO FAR']),
  );
  expect(counts(report)).toEqual({ added: 2, known: 0, updated: 0 });
  expect(report.findings).toMatchObject([
    { scope: 'record', line: 4, code: 'in-future', found: 'Sat 21 Nov 2026', expected: 'Mon 16 Nov 2026' },
  ]);
});

test('a workbook is read like a table; how it was read is kept for its header', async () => {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Export');
  sheet.addRow(['When', 'What it says', 'How much']);
  sheet.addRow(['03/04/2026', 'RENT', -12.5]);
  sheet.addRow(['05/04/2026', 'CD P-1', 40]);
  const data = new Uint8Array(await book.xlsx.writeBuffer());
  async function* open() {
    yield await Promise.resolve(data);
  }
  // Day or month first: nobody can tell, so it is asked.
  expect((await world.bringInBytes(statementImporter, data, 'a.xlsx')).fileFinding).toMatchObject({
    code: 'dates-unclear',
  });
  const look = await world.books.read((db) => lookAtStatement(db, open));
  if (look.format !== 'table') throw new Error('not a table');
  expect(look.saved).toBeNull();
  const settings = { ...look.sniffed.profile, dateOrder: 'DMY' as const };
  const reading = { fingerprint: look.sniffed.fingerprint, settings };
  expect((await world.bringInBytes(statementsFrom(reading), data, 'a.xlsx')).added).toBe(2);
  expect((await lines()).map((line) => [line.book_date, line.amount])).toEqual([
    ['2026-04-03', -1250],
    ['2026-04-05', 4000],
  ]);
  // The next one with this header asks nothing.
  sheet.addRow(['06/04/2026', 'CD P-2', 41]);
  const next = new Uint8Array(await book.xlsx.writeBuffer());
  expect((await world.bringInBytes(statementImporter, next, 'b.xlsx')).added).toBe(1);
});

test('pairs are the same whatever the order, and each line is used once', () => {
  const rarity = new Rarity();
  const line = (id: number, text: string) => ({
    id,
    bankId: '',
    reference: '',
    words: wordsOf({ text, counterparty: '', reference: '' }),
  });
  const [a, b] = [
    [line(1, 'SEPA ANNA'), line(2, 'SEPA BEN')],
    [line(8, 'FROM BEN'), line(9, 'FROM ANNA')],
  ];
  for (const one of [...a, ...b]) rarity.add(one.words);
  for (let n = 0; n < 50; n++) rarity.add(new Set(['SEPA', 'FROM']));
  const expected = [
    [1, 9],
    [2, 8],
  ];
  expect([...pairSame(a, b, rarity)].sort()).toEqual(expected);
  expect([...pairSame([...a].reverse(), [...b].reverse(), rarity)].sort()).toEqual(expected);
});
