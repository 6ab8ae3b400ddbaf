import ExcelJS from 'exceljs';
import { NotAWorkbook, xlsxRows } from '@/adapters/xlsx';
import { receiptsFrom } from '@/books/receipts/import';
import { lookAtFile } from '@/books/receipts/sniff-file';
import type { ByteSource } from '@/formats/finding';
import { DESK_HEAD, useWorld } from './world';

const world = useWorld();

const bytes = (data: Uint8Array | string) => {
  const whole = typeof data === 'string' ? new TextEncoder().encode(data) : data;
  return async function* (): ByteSource {
    for (let at = 0; at < whole.length; at += 4096) yield whole.subarray(at, at + 4096);
  };
};

/** A workbook as a till writes it: real dates, numbers, a formula with its result, text that looks like a number. */
async function workbook(): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('November');
  sheet.addRow(['Pier till']);
  sheet.addRow(['Receipt no', 'Date', 'Amount', 'Fee', 'Payer', 'Note']);
  sheet.addRow([
    '0007',
    new Date(Date.UTC(2026, 10, 9)),
    123.45,
    2.35,
    { richText: [{ text: 'Orla ' }, { text: 'Maher' }] },
    'Rope',
  ]);
  sheet.addRow([
    '0008',
    new Date(Date.UTC(2026, 10, 10, 14, 30)),
    { formula: 'C3/2', result: 61.73 },
    0,
    'Finn Tully',
    null,
  ]);
  book.addWorksheet('Other').addRow(['not', 'read']);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

async function all(source: ByteSource) {
  const rows: string[][] = [];
  for await (const batch of xlsxRows(source)) rows.push(...batch.rows.map((row) => row.fields));
  return rows;
}

test('the first sheet of a workbook as texts: dates, numbers, what a formula came to', async () => {
  expect(await all(bytes(await workbook())())).toEqual([
    ['Pier till'],
    ['Receipt no', 'Date', 'Amount', 'Fee', 'Payer', 'Note'],
    ['0007', '2026-11-09', '123.45', '2.35', 'Orla Maher', 'Rope'],
    ['0008', '2026-11-10 14:30:00', '61.73', '0', 'Finn Tully'],
  ]);
});

test('bytes that only begin like a workbook are refused as one that cannot be read', async () => {
  const broken = new Uint8Array([0x50, 0x4b, 3, 4, ...new Array<number>(200).fill(7)]);
  await expect(all(bytes(broken)())).rejects.toBeInstanceOf(NotAWorkbook);
  const look = await lookAtFile(world.books.reader, bytes(broken), 1);
  expect(look).toMatchObject({ kind: 'refused', finding: { code: 'not-a-workbook' } });
});

test('a workbook comes in as any other export does, and is known again by its header', async () => {
  const data = await workbook();
  const look = await lookAtFile(world.books.reader, bytes(data), 1);
  if (look.kind !== 'read') throw new Error(look.kind);
  expect([look.format, look.saved, look.sniffed.profile.above]).toEqual(['xlsx', null, 1]);
  expect(look.sniffed.profile.columns).toEqual({
    id: 'Receipt no',
    time: 'Date',
    gross: 'Amount',
    fee: 'Fee',
    payer: 'Payer',
    note: 'Note',
  });
  const importer = receiptsFrom({
    channel: 1,
    profile: { fingerprint: look.sniffed.fingerprint, settings: look.sniffed.profile },
  });
  const report = await world.bringInBytes(importer, data, 'till.xlsx');
  expect(report).toMatchObject({ added: 2, refused: 0 });
  const rows = await world.books.reader
    .selectFrom('receipt')
    .select(['external_id', 'gross', 'fee', 'book_date'])
    .orderBy('id')
    .execute();
  expect(rows).toEqual([
    { external_id: '0007', gross: 12345, fee: 235, book_date: '2026-11-09' },
    { external_id: '0008', gross: 6173, fee: 0, book_date: '2026-11-10' },
  ]);
  const again = await lookAtFile(world.books.reader, bytes(data), 1);
  expect(again.kind === 'read' && again.saved).toEqual(look.sniffed.profile);
});

test.each([
  ['this program’s own columns', `${DESK_HEAD}A,receipt,2026-11-09T10:00:00Z,EUR,1.00,,1.00,,,,,,,\n`, 'own'],
  ['another header', 'Date;Amount\n2026-11-09;1,00\n', 'read'],
  ['no header', '1;2\n', 'refused'],
  ['nothing', '', 'refused'],
])('a first look at a file with %s', async (_what, text, kind) => {
  expect((await lookAtFile(world.books.reader, bytes(text), null)).kind).toBe(kind);
});

test('payers are known by the channel’s own ids, whatever name stands beside them later', async () => {
  const look = await lookAtFile(
    world.books.reader,
    bytes('Date,Amount,Member no,Name,Ref\n2026-11-09,1.00,7,Orla,A\n'),
    1,
  );
  if (look.kind !== 'read') throw new Error(look.kind);
  const settings = {
    ...look.sniffed.profile,
    columns: { time: 'Date', gross: 'Amount', payerId: 'Member no', payer: 'Name', id: 'Ref' },
  };
  const importer = receiptsFrom({ channel: 1, profile: { fingerprint: 'x', settings } });
  const file = (rows: string) => `Date,Amount,Member no,Name,Ref\n${rows}`;
  await world.bringIn(importer, file('2026-11-09,1.00,7,Orla Maher,A\n2026-11-09,1.00,8,,B\n'));
  await world.bringIn(importer, file('2026-11-10,1.00,7,O. Maher,C\n2026-11-10,1.00,8,Finn,D\n'));
  const rows = await world.books.reader
    .selectFrom('receipt')
    .innerJoin('payer', 'payer.id', 'receipt.payer_id')
    .select(['external_id', 'payer.name', 'payer.id'])
    .orderBy('external_id')
    .execute();
  expect(rows.map((row) => [row.external_id, row.name])).toEqual([
    ['A', 'Orla Maher'],
    ['B', '8'],
    ['C', 'Orla Maher'],
    ['D', '8'],
  ]);
});

test('a channel with one payer for everyone gives it to those who are not told apart', async () => {
  const { id } = await world.books.write(
    ({ db }) => db.insertInto('payer').values({ name: 'Counter', email: '' }).returning('id').executeTakeFirstOrThrow(),
    () => true,
  );
  await world.books.write(
    ({ db }) => db.updateTable('channel').set({ payer_id: id }).execute(),
    () => true,
  );
  await world.bringIn(
    receiptsFrom({}),
    `${DESK_HEAD}A,receipt,2026-11-09T10:00:00Z,EUR,1.00,,1.00,,,,,,,\nB,receipt,2026-11-09T10:00:00Z,EUR,1.00,,1.00,Orla,,,,,,\n`,
  );
  const rows = await world.books.reader
    .selectFrom('receipt')
    .innerJoin('payer', 'payer.id', 'receipt.payer_id')
    .select(['external_id', 'payer.name'])
    .orderBy('external_id')
    .execute();
  expect(rows.map((row) => row.name)).toEqual(['Counter', 'Orla']);
});
