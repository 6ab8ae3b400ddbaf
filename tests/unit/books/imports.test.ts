import { undoImport } from '@/books/imports/undo-import';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { takeChange } from '@/books/receipts/take-change';
import { statementImporter } from '@/books/statements/import';
import { undoChange } from '@/books/undo';
import { camt053 } from '@/standins/bank/camt053-writer';
import { DESK_HEAD, FIGURE_A, INVOICE_HEAD, statement, STATEMENT_HEAD, useWorld } from './world';

const world = useWorld();

const row = (
  id: string,
  gross: string,
  more: { fee?: string; net?: string; payout?: string; currency?: string; item?: string } = {},
) =>
  `${id},receipt,2026-11-09T10:00:00Z,${more.currency ?? 'EUR'},${gross},${more.fee ?? ''},${more.net ?? ''},P. Strand,,,${more.item ?? ''},,${more.payout ?? ''},\n`;

describe('the card desk’s export', () => {
  test('a dry run tells the same as the import, and writes nothing', async () => {
    const dry = await world.bringIn(receiptsImporter, FIGURE_A.desk, true);
    expect(await world.count('receipt')).toBe(0);
    expect(await world.count('audit')).toBe(1);
    const real = await world.bringIn(receiptsImporter, FIGURE_A.desk);
    expect({ ...dry, run: real.run }).toEqual(real);
    expect(real).toMatchObject({ added: 2, known: 0, refused: 0, from: '2026-11-09', to: '2026-11-10' });
    expect(real.groups).toEqual([
      { label: 'receipt', added: 1, amount: 14760 },
      { label: 'payout', added: 1, amount: -14455 },
    ]);
  });

  test('the same file again adds nothing and leaves no run', async () => {
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    const again = await world.bringIn(receiptsImporter, FIGURE_A.desk);
    expect(again).toMatchObject({ added: 0, known: 2, run: null });
    expect([await world.count('receipt'), await world.count('payout'), await world.count('run')]).toEqual([1, 1, 1]);
  });

  test('a payer is one, whatever the case of the email', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    expect(await world.count('payer')).toBe(1);
  });

  test('a payout that comes later takes its receipts along, and is totalled', async () => {
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD + row('A', '85.00', { fee: '1.87', net: '83.13' }) + row('B', '20.00', { fee: '0.63' }),
    );
    const later =
      DESK_HEAD +
      row('A', '85.00', { fee: '1.87', payout: 'P-9' }) +
      row('B', '20.00', { fee: '0.63', payout: 'P-9' }) +
      'P-9,payout,2026-11-10T05:00:00Z,EUR,-102.50,,,,,,,,,\n';
    expect(await world.bringIn(receiptsImporter, later)).toMatchObject({ added: 1, updated: 2, known: 0 });
    const payout = await world.books.reader.selectFrom('payout').selectAll().executeTakeFirstOrThrow();
    expect(payout).toMatchObject({
      receipt_count: 2,
      receipt_gross: 10500,
      receipt_fee: 250,
      net: 10250,
      expected_on: '2026-11-12',
    });
  });

  test('what is refused is named with line and reason; the rest can come in', async () => {
    await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '85.00', { payout: 'P-1' }));
    const report = await world.bringIn(
      receiptsImporter,
      DESK_HEAD +
        row('A', '95.00') + // here with other figures: kept beside it
        row('B', '10.00') +
        row('B', '11.00') + // line 4: twice in this file, other figures
        row('B', '10.00') + // the same again: known
        row('C', '12.00', { currency: 'GBP' }) + // line 6
        row('D', '12.00', { item: 'anchor' }) + // line 7
        row('E', '5.00'),
    );
    expect(report).toMatchObject({ added: 2, known: 1, changed: 1, refused: 3 });
    expect(report.findings.map((f) => [f.line, f.code, f.subject])).toEqual([
      [4, 'repeated-id', 'B'],
      [6, 'other-currency', 'C'],
      [7, 'unknown-item', 'D'],
    ]);
    expect(await world.count('receipt')).toBe(3);
    const other = await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '85.00', { payout: 'P-2' }), true);
    expect(other.findings).toEqual([expect.objectContaining({ code: 'other-payout', expected: 'P-1', found: 'P-2' })]);
  });

  test('what the source changed waits beside the receipt, is taken over with its entry, and goes with its file', async () => {
    await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '85.00'));
    const id = await world.id('receipt', 'A');
    await world.must(postReceipts, { ids: [id] });
    const gross = async () =>
      (await world.books.reader.selectFrom('receipt').select('gross').executeTakeFirstOrThrow()).gross;
    const change = DESK_HEAD + row('A', '95.00');
    expect(await world.bringIn(receiptsImporter, change)).toMatchObject({ added: 0, changed: 1, refused: 0 });
    expect(await gross()).toBe(8500);
    // The same file again says nothing new.
    expect(await world.bringIn(receiptsImporter, change)).toMatchObject({ changed: 0, known: 1, run: null });
    await world.must(undoImport, { run: 2 });
    expect(await world.count('receipt_change')).toBe(0);
    await world.bringIn(receiptsImporter, change);
    await world.must(takeChange, { receipt: id });
    expect(await gross()).toBe(9500);
    expect((await world.balances())['1200']).toBe(9500);
    expect(await world.count('receipt_change')).toBe(0);
    await world.expectSound();
  });

  test('a file without a column changes nothing', async () => {
    const report = await world.bringIn(receiptsImporter, 'Id,Type\nA,receipt\n');
    expect(report).toMatchObject({ fileFinding: { code: 'missing-columns' }, added: 0, run: null });
    expect(await world.count('run')).toBe(0);
  });
});

describe('invoices', () => {
  test('lines become one invoice with the file’s own tax', async () => {
    const text = `${INVOICE_HEAD}KS-1,P,,2026-11-02,2026-11-23,EUR,repair,10.01,S23,2.31\nKS-1,P,,2026-11-02,2026-11-23,EUR,lesson,20.00,R13,\n`;
    expect(await world.bringIn(invoicesImporter, text)).toMatchObject({ added: 1, refused: 0 });
    const invoice = await world.books.reader.selectFrom('invoice').selectAll().executeTakeFirstOrThrow();
    expect(invoice).toMatchObject({ net: 3001, tax: 501, gross: 3502 });
    expect(await world.bringIn(invoicesImporter, text)).toMatchObject({ added: 0, known: 1, run: null });
  });

  test('one bad line refuses its invoice, not the others', async () => {
    const line = (number: string, net: string, more = 'repair', code = 'S23', tax = '') =>
      `${number},P,,2026-11-02,2026-11-23,EUR,${more},${net},${code},${tax}\n`;
    const report = await world.bringIn(
      invoicesImporter,
      INVOICE_HEAD +
        line('KS-1', '10.00') +
        line('KS-1', 'ten') +
        line('KS-2', '10.00', 'anchor') +
        line('KS-3', '10.00', 'repair', 'S99') +
        line('KS-4', '10.00', 'repair', 'S23', '9.00') +
        line('KS-5', '-10.00') +
        line('KS-6', '10.00'),
    );
    expect(report).toMatchObject({ added: 1, refused: 5 });
    expect(report.findings.map((f) => [f.subject, f.code])).toEqual([
      ['KS-1', 'bad-amount'],
      ['KS-2', 'unknown-item'],
      ['KS-3', 'unknown-tax-code'],
      ['KS-4', 'bad-tax'],
      ['KS-5', 'bad-total'],
    ]);
    const changed = await world.bringIn(invoicesImporter, INVOICE_HEAD + line('KS-6', '11.00'), true);
    expect(changed.findings).toEqual([expect.objectContaining({ subject: 'KS-6', code: 'other-figures' })]);
  });
});

describe('statements', () => {
  const first = statement(
    100_000,
    ['2026-11-11', 500, 'TWIN'],
    ['2026-11-11', 500, 'TWIN'],
    ['2026-11-12', 700, 'LAST'],
  );

  test('truly equal lines both stay, and a second reading adds neither', async () => {
    expect(await world.bringIn(statementImporter, first)).toMatchObject({ added: 3 });
    expect(await world.bringIn(statementImporter, first)).toMatchObject({ added: 0, known: 3, run: null });
    const overlap = statement(101_000, ['2026-11-12', 700, 'Last.'], ['2026-11-13', 900, 'NEW']);
    expect(await world.bringIn(statementImporter, overlap)).toMatchObject({ added: 1, known: 1 });
  });

  test('the same days by camt.053 and by CSV are the same lines', async () => {
    await world.bringIn(statementImporter, first);
    const xml = [
      ...camt053({
        id: 'S',
        iban: 'IE29SKER93115212345678',
        currency: 'EUR',
        opening: 101_000,
        from: '2026-11-12',
        to: '2026-11-16',
        lines: [
          { date: '2026-11-12', amount: 700, text: 'LAST', party: 'X', reference: 'R9' },
          { date: '2026-11-16', amount: -100, text: 'OUT', party: '', reference: 'R10' },
        ],
      }),
    ].join('');
    expect(await world.bringIn(statementImporter, xml, false, 's.xml')).toMatchObject({ added: 1, known: 1 });
  });

  test('another account’s statement is refused with both numbers', async () => {
    const report = await world.bringIn(statementImporter, `${STATEMENT_HEAD}IE00OTHER,2026-11-11,5.00,EUR,X,,5.00\n`);
    expect(report.fileFinding).toMatchObject({
      code: 'other-account',
      expected: 'IE29SKER93115212345678',
      found: 'IE00OTHER',
    });
    expect(await world.count('statement_line')).toBe(0);
  });
});

describe('taking a file back', () => {
  const everything = async () =>
    Promise.all(
      ['receipt', 'payout', 'invoice', 'invoice_line', 'statement', 'statement_line', 'proposal'].map((t) =>
        world.count(t),
      ),
    );

  test('leaves the books as they were, and can be undone only once', async () => {
    const before = await everything();
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    await world.bringIn(statementImporter, FIGURE_A.statement);
    for (const run of [3, 2, 1]) await world.must(undoImport, { run });
    expect(await everything()).toEqual(before);
    expect(await world.refusal(undoImport, { run: 1 })).toBe('import-undone');
    expect(await world.bringIn(receiptsImporter, FIGURE_A.desk)).toMatchObject({ added: 2 });
  });

  test('a link to a payout goes with the file that told it', async () => {
    await world.bringIn(receiptsImporter, DESK_HEAD + row('A', '85.00', { fee: '1.87' }));
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD +
        row('A', '85.00', { fee: '1.87', payout: 'P-9' }) +
        'P-9,payout,2026-11-10T05:00:00Z,EUR,-83.13,,,,,,,,,\n',
    );
    await world.must(undoImport, { run: 2 });
    const receipt = await world.books.reader.selectFrom('receipt').selectAll().executeTakeFirstOrThrow();
    expect(receipt).toMatchObject({ payout_ref: '', payout_id: null });
    expect(await world.count('payout')).toBe(0);
  });

  test('is refused with what rests on it', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    await world.must(postInvoices, { filter: {} });
    await world.must(postReceipts, { filter: {} });
    const refused = await world.run(undoImport, { run: 2 });
    expect(refused).toMatchObject({
      ok: false,
      refusal: { code: 'import-rested-on', on: ['1 of its receipts was posted'] },
    });
  });

  test('the audit row of an import undoes it', async () => {
    await world.bringIn(receiptsImporter, FIGURE_A.desk);
    const audit = await world.lastAudit();
    await world.must(undoChange, { audit });
    expect(await world.count('receipt')).toBe(0);
    expect(await world.refusal(undoChange, { audit })).toBe('nothing-to-undo');
  });
});
