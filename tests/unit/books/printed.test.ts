import parsePdf from 'pdf-parse/lib/pdf-parse.js';
import { mediaTypeOf } from '@/books/billing/attachments';
import { creditInvoice } from '@/books/billing/credit';
import { payLinkOf, printedCreditNote, printedInvoice } from '@/books/billing/hand-out';
import { creditNoteDocument, invoiceDocument } from '@/books/billing/document';
import { creditNoteUbl, invoiceUbl } from '@/books/billing/ubl';
import { printedAccount } from '@/books/payers/account-pdf';
import { importList, type ImportedList } from '@/books/setup/import-list';
import { setLetterhead } from '@/books/setup/list-commands';
import { exportCsv } from '@/books/lists/export';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { bill, DETAILS, earlyTerms, issue, payerNamed } from './bills';
import { useWorld } from './world';

const world = useWorld();
let payer: number;
beforeEach(async () => {
  payer = await payerNamed(world, 'A. Tern & Żółw Ltd', 'office@tern.example');
  await world.must(setLetterhead, {
    address: 'The Slip\nTernport',
    email: '',
    tax_number: 'IE 7',
    number_prefix: 'K',
    write_off_limit: minor(0),
    bic: 'SKERIE2D',
  });
});

const textOf = async (file: { bytes: Uint8Array } | null) =>
  (await parsePdf(Buffer.from(file!.bytes))).text.replace(/\s+/g, ' ');

test('an invoice in print says what it says in the books, as text', async () => {
  const terms = await earlyTerms(world);
  const of = await bill(world, payer, [12000, 8000], { terms, note: 'By the slip', reference: 'PO 118' });
  of.lines[0]!.quantity = 2500;
  const { invoice, number } = await issue(world, of);
  const token = await world.books.write(
    ({ db }) => payLinkOf(db, invoice, ''),
    () => true,
  );
  const text = await textOf(await printedInvoice(world.books.reader, invoice, (one) => `http://pay.example/${one}`));
  for (const said of [
    number,
    'Kittiwake Sails & Rigging',
    'The Slip',
    'A. Tern & Żółw Ltd',
    '1 Quay Street',
    'PO 118',
    'By the slip',
    '380.00',
    '87.40',
    '467.40',
    '9.35',
    'SKERIE2D',
    token.slice(0, 20),
  ]) {
    expect(text).toContain(said);
  }
});

test('a hundred lines go over several pages and lose none', async () => {
  const { invoice } = await issue(
    world,
    await bill(
      world,
      payer,
      Array.from({ length: 100 }, (_, n) => 10_001 + n),
    ),
  );
  const file = (await printedInvoice(world.books.reader, invoice, String))!;
  const read = await parsePdf(Buffer.from(file.bytes));
  expect(read.numpages).toBeGreaterThan(2);
  for (let n = 0; n < 100; n++) expect(read.text).toContain(`${((10_001 + n) / 100).toFixed(2)}`);
});

test('credit notes and accounts in print; what is withdrawn says so', async () => {
  const { invoice, number } = await issue(world, await bill(world, payer, [12000]));
  const { note } = await world.must(creditInvoice, {
    invoice,
    lines: [{ line: 1, net: minor(2000) }],
    why: 'One hour less',
    issued: null,
  });
  const text = await textOf(await printedCreditNote(world.books.reader, note));
  for (const said of ['KC2026-0001', number, 'One hour less', '24.60']) expect(text).toContain(said);
  const account = await textOf(
    await printedAccount(world.books.reader, payer, plainDate('2026-11-01'), plainDate('2026-11-30')),
  );
  for (const said of ['147.60', '123.00', 'Credit note']) expect(account).toContain(said);
});

test('as UBL it is the same document, note and invoice', async () => {
  const { invoice, number } = await issue(world, await bill(world, payer, [12000]));
  expect(invoiceUbl((await invoiceDocument(world.books.reader, invoice))!)).toContain(`<cbc:ID>${number}</cbc:ID>`);
  const { note } = await world.must(creditInvoice, { invoice, lines: null, why: '', issued: null });
  expect(creditNoteUbl((await creditNoteDocument(world.books.reader, note))!)).toContain('>147.60</cbc:PayableAmount>');
});

test('an attachment is what is in it, not what it is called', async () => {
  const png = Buffer.from('89504e470d0a1a0a0000000d49484452', 'hex');
  const of = (name: string, bytes: Uint8Array) => mediaTypeOf(name, bytes);
  expect(await of('a.png', png)).toEqual({ type: 'image/png' });
  expect(await of('a.pdf', png)).toEqual({ found: 'a file of the kind image/png' });
  expect(await of('a.pdf', Buffer.from('hello'))).toEqual({ found: 'plain text' });
  expect(await of('a.csv', Buffer.from('a,b\n'))).toEqual({ type: 'text/csv' });
  expect(await of('a.txt', Buffer.from([1, 0, 2]))).toEqual({ found: 'no readable text' });
  expect(await of('a.exe', Buffer.from('MZ\u0000\u0001'))).toHaveProperty('found');
  expect(await of('a', Buffer.alloc(0))).toHaveProperty('found');
});

describe('lists from a file', () => {
  const take = (list: ImportedList, text: string) => world.must(importList, { list, text, name: `${list}.csv` });
  const exported = async (list: string) => {
    const rows: string[] = [];
    const context = {
      books: world.books,
      currency: 'EUR',
      today: plainDate('2026-11-16'),
      search: {},
      fileBytes: () => (async function* () {})(),
    };
    for await (const row of exportCsv(list, context)!) rows.push(row);
    return rows.join('');
  };

  test.each(['items', 'tax-codes', 'terms', 'payers'] as const)(
    '%s: what is exported comes in again and changes nothing',
    async (list) => {
      await earlyTerms(world);
      await payerNamed(world, DETAILS.name);
      const text = await exported(list === 'payers' ? 'payers-list' : list);
      expect(await take(list, text)).toMatchObject({ added: 0, changed: 0, refused: [] });
    },
  );

  test('adds, changes and refuses row by row, and is taken back as one', async () => {
    const text =
      'Code,Name,Income account,Tax code,Net price\nsplice,Splicing,4010,S23,15.00\nrepair,Sail repairs,4010,S23,\nbad,Bad,9999,S23,\nworse,Worse,4010,S23,x\n';
    const report = await take('items', text);
    expect(report).toMatchObject({ added: 1, changed: 1, known: 0 });
    expect(report.refused.map(({ line, why }) => [line, why])).toEqual([
      [4, 'There is no account 9999.'],
      [5, 'x is no amount.'],
    ]);
    await world.undoLast();
    const items = await world.books.reader.selectFrom('item').select(['code', 'name']).orderBy('id').execute();
    expect(items).toMatchObject([{ name: 'Sail repair' }, {}, {}, {}]);
    expect(await world.refusal(importList, { list: 'items' as const, text: 'a,b\n1,2\n', name: 'x' })).toBe(
      'invalid-input',
    );
  });
});
