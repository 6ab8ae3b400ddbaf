import fc from 'fast-check';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { closeThrough } from '@/books/ledger/close';
import { postedJournal } from '@/books/ledger/entry-view';
import { accountRegister } from '@/books/ledger/register';
import { reverse } from '@/books/ledger/reverse';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import type { PlainDate } from '@/core/calendar';
import { DESK_HEAD, FIGURE_A, INVOICE_HEAD, World, useWorld } from './world';

const world = useWorld();

const OPENING = { '1010': 2431860, '3000': -2431860 };
const onlyJournal = async (what: 'receipt' | 'invoice', name: string) => {
  const row = await world.books.reader
    .selectFrom(what)
    .select('journal_id')
    .where('id', '=', await world.id(what, name))
    .executeTakeFirstOrThrow();
  return { from: row.journal_id!, to: row.journal_id! };
};

async function figureA(): Promise<void> {
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  await world.bringIn(receiptsImporter, FIGURE_A.desk);
  await world.must(postInvoices, { filter: {} });
  await world.must(postReceipts, { filter: {} });
}

test('worked figure A, through the files', async () => {
  await figureA();
  expect(await world.balances()).toEqual({ ...OPENING, '1200': 14455, '2100': -2760, '4010': -12000, '6100': 305 });
  const invoice = await world.books.reader.selectFrom('invoice').select(['paid', 'gross']).executeTakeFirstOrThrow();
  expect(invoice).toEqual({ paid: 14760, gross: 14760 });
});

test('the preview is what is then written, line for line, with the balances it moves', async () => {
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  await world.bringIn(receiptsImporter, FIGURE_A.desk);
  await world.must(postInvoices, { filter: {} });
  const ids = [await world.id('receipt', 'CD-1')];
  const dry = await world.run(postReceipts, { ids }, true);
  expect(await world.count('journal')).toBe(2);
  const real = await world.must(postReceipts, { ids });
  expect(dry).toMatchObject({ ok: true, value: real });
  expect(real.moves.map((m) => [m.code, m.before, m.after])).toEqual([
    ['1100', 14760, 0],
    ['1200', 0, 14455],
    ['6100', 0, 305],
  ]);
  const journal = await postedJournal(world.books.reader, real.journals!.from);
  expect(journal!.lines).toEqual(real.entry!.lines);
  expect(journal!.lines.map((l) => l.because)).toContain('settles invoice KS-2041');
});

test('posting twice is refused, and nothing is written', async () => {
  await figureA();
  expect(await world.refusal(postReceipts, { ids: [await world.id('receipt', 'CD-1')] })).toBe('already-posted');
  expect(await world.must(postReceipts, { filter: {} })).toMatchObject({ posted: 0 });
  expect(await world.count('journal')).toBe(3);
});

test('a receipt waits for its invoice', async () => {
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  await world.bringIn(receiptsImporter, FIGURE_A.desk);
  expect(await world.refusal(postReceipts, { ids: [await world.id('receipt', 'CD-1')] })).toBe('invoice-not-posted');
});

test('reverse writes the opposite, and posting again leaves the balances of one posting', async () => {
  await figureA();
  const before = await world.balances();
  await world.must(reverse, await onlyJournal('receipt', 'CD-1'));
  expect(await world.balances()).toEqual({ ...OPENING, '1100': 14760, '2100': -2760, '4010': -12000 });
  await world.must(postReceipts, { ids: [await world.id('receipt', 'CD-1')] });
  expect(await world.balances()).toEqual(before);
  const rows = await world.books.reader
    .selectFrom('journal')
    .select(['source_kind', 'revision', 'reverses_id'])
    .where('id', '>', 2)
    .execute();
  expect(rows).toEqual([
    { source_kind: 'receipt', revision: 1, reverses_id: null },
    { source_kind: 'reversal', revision: 1, reverses_id: 3 },
    { source_kind: 'receipt', revision: 2, reverses_id: null },
  ]);
});

test('an invoice with money on it is not reversed; together with its receipt it is', async () => {
  await figureA();
  expect(await world.refusal(reverse, await onlyJournal('invoice', 'KS-2041'))).toBe('invoice-has-receipts');
  await world.must(reverse, { from: 2, to: 3 });
  expect(await world.balances()).toEqual(OPENING);
});

test('undo of a posting reverses it, undo of that posts again', async () => {
  await figureA();
  const before = await world.balances();
  await world.undoLast();
  expect(await world.balances()).not.toEqual(before);
  await world.undoLast();
  expect(await world.balances()).toEqual(before);
});

describe('a closed period', () => {
  const close = (date: string | null, reopen = false) =>
    world.run(closeThrough, { date: date as PlainDate | null, reopen });

  test('takes no posting, and says what and where', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await close('2026-11-05');
    expect(await world.run(postInvoices, { ids: [1] })).toEqual({
      ok: false,
      refusal: { code: 'period-closed', date: '2026-11-02', closedThrough: '2026-11-05' },
    });
    expect(await world.must(postInvoices, { filter: {} })).toMatchObject({ posted: 0, notPostedCount: 1 });
    expect(await world.balances()).toEqual(OPENING);
  });

  test('a reversal of something closed is dated on the first open day', async () => {
    await figureA();
    await close('2026-11-10');
    await world.must(reverse, await onlyJournal('receipt', 'CD-1'));
    const row = await world.books.reader
      .selectFrom('journal')
      .select('book_date')
      .orderBy('id', 'desc')
      .executeTakeFirstOrThrow();
    expect(row.book_date).toBe('2026-11-11');
  });

  test('is not set back by accident, nor ahead of the day', async () => {
    await close('2026-10-31');
    expect(await close('2026-09-30')).toMatchObject({ refusal: { code: 'close-backwards' } });
    expect(await close('2026-11-16')).toMatchObject({ refusal: { code: 'close-ahead', today: '2026-11-16' } });
    expect(await close('2026-09-30', true)).toMatchObject({ ok: true });
    expect(await close(null, true)).toMatchObject({ ok: true, value: { closedThrough: null } });
  });
});

test('two receipts of one batch do not both take the same open amount', async () => {
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  const pay = (id: string, gross: string) =>
    `${id},receipt,2026-11-09T10:00:00Z,EUR,${gross},,,A. Tern,a.tern@mail.example,KS-2041,,,,\n`;
  await world.bringIn(receiptsImporter, DESK_HEAD + pay('A', '100.00') + pay('B', '100.00') + pay('C', '5.00'));
  await world.must(postInvoices, { filter: {} });
  await world.must(postReceipts, { filter: {} });
  expect(await world.balances()).toMatchObject({ '1200': 20500, '2200': -(20500 - 14760) });
});

test('a document that is no invoice is kept for the payer, and settles once the invoice is here', async () => {
  await world.bringIn(receiptsImporter, FIGURE_A.desk);
  await world.must(postReceipts, { filter: {} });
  expect(await world.balances()).toMatchObject({ '2200': -14760 });
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  await world.must(postInvoices, { filter: {} });
  await world.must(reverse, await onlyJournal('receipt', 'CD-1'));
  await world.must(postReceipts, { filter: {} });
  expect((await world.balances())['2200']).toBeUndefined();
});

test('many at once: every invoice is settled by its own receipt', async () => {
  const all = Array.from({ length: 130 }, (_, i) => i);
  const invoice = (i: number) => `B-${i},P,,2026-11-02,2026-11-23,EUR,repair,${100 + i}.00,S23,\n`;
  const paid = (i: number) =>
    `C-${i},receipt,2026-11-09T10:00:00Z,EUR,${((100 + i) * 1.23).toFixed(2)},,,P,,B-${i},,,,\n`;
  await world.bringIn(invoicesImporter, INVOICE_HEAD + all.map(invoice).join(''));
  await world.bringIn(receiptsImporter, DESK_HEAD + all.map(paid).join(''));
  await world.must(postInvoices, { filter: {} });
  expect(await world.must(postReceipts, { filter: {} })).toMatchObject({ posted: 130, notPostedCount: 0 });
  expect((await world.balances())['1100']).toBeUndefined();
  // Issued once and settled once, each.
  expect(await world.count('invoice_entry')).toBe(260);
});

test('the register runs to the balance, page by page', async () => {
  const rows = Array.from(
    { length: 60 },
    (_, i) => `R${i},receipt,2026-11-${String((i % 9) + 1).padStart(2, '0')}T10:00:00Z,EUR,${i + 1}.00,0.25,,,,,,,,\n`,
  );
  await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
  await world.must(postReceipts, { filter: {} });
  const clearing = await world.account('1200');
  const first = (await accountRegister(world.books.reader, clearing, null))!;
  expect(first.count).toBe(120);
  expect(first.rows[0]!.running).toBe(first.account.balance);
  const [date, journal, line] = first.next!.split('_');
  const second = (await accountRegister(world.books.reader, clearing, {
    date: date!,
    journal: Number(journal),
    line: Number(line),
  }))!;
  const end = first.rows.at(-1)!;
  expect(second.rows[0]!.running).toBe(end.running - end.amount);
  const third = second.rows.at(-1)!;
  expect(second.rows).toHaveLength(50);
  expect(third.running).not.toBe(0);
});

test('property: whatever the file, post, reverse and post again leave what one posting leaves', async () => {
  const receipt = fc.record({
    cents: fc.integer({ min: 100, max: 99_999 }),
    fee: fc.option(fc.integer({ min: 0, max: 90 })),
    about: fc.constantFrom('KS-1', 'KS-2', 'KS-404', 'parts', ''),
    refund: fc.boolean(),
  });
  await fc.assert(
    fc.asyncProperty(fc.array(receipt, { minLength: 1, maxLength: 8 }), async (list) => {
      const w = await World.open();
      try {
        const invoice = (n: number) =>
          `KS-${n},P${n},,2026-11-02,2026-11-23,EUR,repair,100.00,S23,\nKS-${n},P${n},,2026-11-02,2026-11-23,EUR,lesson,50.00,R13,\n`;
        await w.bringIn(invoicesImporter, INVOICE_HEAD + invoice(1) + invoice(2));
        const text = list.map(({ cents, fee, about, refund }, i) => {
          const sign = refund ? -1 : 1;
          const money = (n: number) => ((sign * n) / 100).toFixed(2);
          const [document, item] = about.startsWith('KS') ? [about, ''] : ['', about];
          return `X${i},${refund ? 'refund' : 'receipt'},2026-11-0${(i % 9) + 1}T10:00:00Z,EUR,${money(cents)},${fee === null ? '' : money(fee)},,,,${document},${item},,,\n`;
        });
        await w.bringIn(receiptsImporter, DESK_HEAD + text.join(''));
        await w.must(postInvoices, { filter: {} });
        const before = await w.balances();
        const posting = await w.must(postReceipts, { filter: {} });
        const posted = await w.balances();
        await w.must(reverse, posting.journals!);
        expect(await w.balances()).toEqual(before);
        await w.must(postReceipts, { filter: {} });
        expect(await w.balances()).toEqual(posted);
        await w.expectSound();
      } finally {
        await w.close();
      }
    }),
    { numRuns: 15 },
  );
});
