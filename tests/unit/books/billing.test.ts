import { correctInvoice } from '@/books/billing/correct';
import { creditInvoice, withdrawCreditNote } from '@/books/billing/credit';
import { draftBill, dropInvoiceDraft, listDrafts, saveInvoiceDraft } from '@/books/billing/drafts';
import { issueInvoice } from '@/books/billing/issue';
import { invoiceDetail } from '@/books/invoices/detail';
import { closeThrough } from '@/books/ledger/close';
import { reverse } from '@/books/ledger/reverse';
import { postReceipts } from '@/books/receipts/post';
import { receiptsImporter } from '@/books/receipts/import';
import { keepTaxCode } from '@/books/setup/list-commands';
import { runCommand } from '@/books/command';
import { plainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { bill, issue, payerNamed } from './bills';
import { ACTOR, DESK_HEAD, useWorld } from './world';

const world = useWorld();
let payer: number;
beforeEach(async () => {
  payer = await payerNamed(world);
});

const detail = async (id: number) => (await invoiceDetail(world.books.reader, id, plainDate('2026-11-16')))!;
const undo = () => world.undoLast();

describe('issuing', () => {
  test('gives the next number and posts, line by line', async () => {
    const first = await issue(world, await bill(world, payer, [12000]));
    expect(first).toMatchObject({ number: '2026-0001', gross: 14760 });
    expect(await world.balances()).toMatchObject({ '1100': 14760 });
    const second = await issue(world, await bill(world, payer, [100]));
    expect(second.number).toBe('2026-0002');
    const other = await issue(world, await bill(world, payer, [100], { issued: plainDate('2027-01-02') }));
    expect(other.number).toBe('2027-0001');
  });

  test('sent off twice a draft is one invoice, and the second time names it', async () => {
    const of = await bill(world, payer, [12000]);
    const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
    await world.must(issueInvoice, { draft, bill: of });
    expect(await world.refusal(issueInvoice, { draft, bill: of })).toBe('draft-issued');
    expect(await world.refusal(saveInvoiceDraft, { draft, bill: of })).toBe('draft-issued');
    expect(await world.count('invoice')).toBe(1);
    expect(await listDrafts(world.books.reader)).toEqual([]);
  });

  test('many at once: numbers follow each other without a gap, refused ones leave none', async () => {
    const of = await bill(world, payer, [500]);
    const bad = { ...of, lines: [] };
    const drafts = await Promise.all(
      Array.from({ length: 12 }, () => world.must(saveInvoiceDraft, { draft: null, bill: of })),
    );
    const results = await Promise.all(
      drafts.map(({ draft }, index) =>
        runCommand(world.books, issueInvoice, { draft, bill: index % 3 === 2 ? bad : of }, { actor: ACTOR }),
      ),
    );
    const numbers = results.flatMap((result) => (result.ok ? [result.value.number] : []));
    expect(numbers.sort()).toEqual(Array.from({ length: 8 }, (_, n) => `2026-000${n + 1}`));
  });

  test('a dry run shows number and entry and leaves nothing', async () => {
    const of = await bill(world, payer, [12000]);
    const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
    const dry = await world.run(issueInvoice, { draft, bill: of }, true);
    expect(dry).toMatchObject({ ok: true, value: { number: '2026-0001' } });
    expect(await world.count('invoice')).toBe(0);
    expect((await issue(world, of)).number).toBe('2026-0001');
  });

  test.each([
    ['no payer', { payer: null }, 'invalid-input'],
    ['no lines', { lines: [] }, 'invalid-input'],
    ['due before issued', { due: plainDate('2026-11-08') }, 'invalid-input'],
    ['terms that are not there', { terms: 99 }, 'not-found'],
  ] as const)('refused: %s', async (_name, more, code) => {
    const of = { ...(await bill(world, payer, [100])), ...(more as object) };
    const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
    expect(await world.refusal(issueInvoice, { draft, bill: of })).toBe(code);
    expect(await draftBill(world.books.reader, draft)).toEqual(of);
  });

  test('refused: totals at or below nothing, closed days; a zero line beside others is fine', async () => {
    for (const nets of [[-100], [0], [100, -100]]) {
      const of = await bill(world, payer, nets);
      const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
      expect(await world.refusal(issueInvoice, { draft, bill: of })).toBe('total-not-positive');
    }
    expect(await issue(world, await bill(world, payer, [0, 100, -50]))).toMatchObject({ gross: 62 });
    await world.must(closeThrough, { date: plainDate('2026-10-31'), reopen: false });
    const of = await bill(world, payer, [100], { issued: plainDate('2026-10-31') });
    const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
    expect(await world.refusal(issueInvoice, { draft, bill: of })).toBe('period-closed');
  });

  test('a hundred lines, mixed taxes and discounts, come to what stands on it', async () => {
    const of = await bill(
      world,
      payer,
      Array.from({ length: 100 }, (_, n) => 33 + n),
    );
    const reduced = await world.books.reader
      .selectFrom('tax_code')
      .select('id')
      .where('rate', '=', 1350)
      .executeTakeFirstOrThrow();
    of.lines.forEach((line, index) =>
      Object.assign(line, index % 3 === 0 ? { taxCode: reduced.id, discount: 1000 } : {}),
    );
    const { invoice, gross } = await issue(world, of);
    const { lines, net, tax } = await detail(invoice);
    expect(lines).toHaveLength(100);
    expect(lines.reduce((total, line) => total + line.net, 0)).toBe(net);
    expect(net + tax).toBe(gross);
  });

  test('a text that would turn the print around is set straight', async () => {
    const of = await bill(world, payer, [100], { note: 'pay \u202eEUR\u202c now\u0007' });
    const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
    expect((await draftBill(world.books.reader, draft))!.note).toBe('pay EUR now');
  });

  test('a draft is dropped and taken back; undoing an issue voids it, and its number stays', async () => {
    const of = await bill(world, payer, [12000]);
    const { draft } = await world.must(saveInvoiceDraft, { draft: null, bill: of });
    await world.must(dropInvoiceDraft, { draft });
    await undo();
    expect(await listDrafts(world.books.reader)).toHaveLength(1);
    const { invoice } = await issue(world, of);
    await undo();
    expect((await detail(invoice)).state).toBe('void');
    expect((await world.balances())['1100']).toBeUndefined();
    expect((await issue(world, of)).number).toBe('2026-0002');
  });

  test('its posting is not taken back by itself', async () => {
    const { invoice } = await issue(world, await bill(world, payer, [100]));
    const { journal } = await detail(invoice);
    expect(await world.refusal(reverse, { from: journal!, to: journal! })).toBe('issued-here');
  });
});

describe('correcting', () => {
  test('a new version, the difference in the ledger today, and undone by another', async () => {
    const of = await bill(world, payer, [12000]);
    const { invoice } = await issue(world, of);
    const made = await world.must(correctInvoice, {
      invoice,
      version: 1,
      bill: await bill(world, payer, [10000]),
      why: 'one hour less',
    });
    expect(made).toMatchObject({ version: 2, difference: -2460 });
    expect(made.entry!.date).toBe('2026-11-16');
    expect(await world.balances()).toMatchObject({ '1100': 12300 });
    await undo();
    const now = await detail(invoice);
    expect(now).toMatchObject({ version: 3, gross: 14760 });
    expect(now.versions.map(({ gross }) => gross)).toEqual([14760, 12300, 14760]);
    expect(now.moves.map(({ kind, amount }) => [kind, amount])).toEqual([
      ['issued', 14760],
      ['corrected', -2460],
      ['corrected', 2460],
    ]);
  });

  test('two who correct at once: the second is told; a changed text books nothing', async () => {
    const of = await bill(world, payer, [12000]);
    const { invoice } = await issue(world, of);
    const journals = await world.count('journal');
    const noted = await world.must(correctInvoice, {
      invoice,
      version: 1,
      bill: { ...of, note: 'By the slip' },
      why: '',
    });
    expect(noted).toMatchObject({ version: 2, difference: 0, entry: null });
    expect(await world.count('journal')).toBe(journals);
    expect(await world.refusal(correctInvoice, { invoice, version: 1, bill: of, why: '' })).toBe('invoice-changed');
  });

  test('below what is paid it is refused, and credited instead', async () => {
    const { invoice, number } = await issue(world, await bill(world, payer, [12000]));
    await world.bringIn(
      receiptsImporter,
      `${DESK_HEAD}CD-1,receipt,2026-11-10T10:00:00Z,EUR,147.60,3.05,144.55,A. Tern,,${number},,,,\n`,
    );
    await world.must(postReceipts, { filter: {} });
    const less = await bill(world, payer, [10000]);
    expect(await world.refusal(correctInvoice, { invoice, version: 1, bill: less, why: '' })).toBe('paid-more');
    const credited = await world.must(creditInvoice, {
      invoice,
      lines: [{ line: 1, net: minor(2000) }],
      why: '',
      issued: null,
    });
    expect(credited).toMatchObject({ number: 'C2026-0001', gross: 2460, kept: 2460 });
    expect(await world.balances()).toMatchObject({ '2200': -2460 });
    expect((await detail(invoice)).state).toBe('paid');
  });
});

describe('credit notes', () => {
  test('void an invoice at the rates it was issued with, whatever they are now', async () => {
    const { invoice } = await issue(world, await bill(world, payer, [12000]));
    const tax = await world.books.reader
      .selectFrom('tax_code')
      .selectAll()
      .where('code', '=', 'S23')
      .executeTakeFirstOrThrow();
    await world.must(keepTaxCode, { ...tax, rate: 2500 });
    expect((await issue(world, await bill(world, payer, [12000]))).gross).toBe(15000);
    const note = await world.must(creditInvoice, { invoice, lines: null, why: 'not wanted', issued: null });
    expect(note.gross).toBe(14760);
    expect(note.entry.lines.map(({ amount }) => amount)).toEqual([12000, 2760, -14760]);
    expect((await detail(invoice)).state).toBe('void');
    expect(await world.refusal(creditInvoice, { invoice, lines: null, why: '', issued: null })).toBe(
      'nothing-to-credit',
    );
  });

  test('in parts, never more than a line has left, to the cent', async () => {
    const { invoice } = await issue(world, await bill(world, payer, [3333, 3333]));
    const part = (net: number) => ({ invoice, lines: [{ line: 1, net: minor(net) }], why: '', issued: null });
    await world.must(creditInvoice, part(1111));
    await world.must(creditInvoice, part(1111));
    expect(await world.refusal(creditInvoice, part(1112))).toBe('credit-too-large');
    expect(await world.refusal(creditInvoice, part(-1))).toBe('credit-too-large');
    await world.must(creditInvoice, part(1111));
    const rest = await world.must(creditInvoice, { invoice, lines: null, why: '', issued: null });
    const { gross, credited, paid } = await detail(invoice);
    expect([credited, paid]).toEqual([gross, gross]);
    expect(rest.number).toBe('C2026-0004');
    expect((await world.balances())['1100']).toBeUndefined();
  });

  test('is withdrawn while nothing rests on it, and issued anew', async () => {
    const { invoice } = await issue(world, await bill(world, payer, [12000]));
    const { note } = await world.must(creditInvoice, { invoice, lines: null, why: 'x', issued: null });
    await undo();
    expect((await detail(invoice)).state).toBe('overdue');
    expect(await world.refusal(withdrawCreditNote, { note })).toBe('not-posted');
    await undo();
    expect((await detail(invoice)).creditNotes.map(({ number, journal }) => [number, journal !== null])).toEqual([
      ['C2026-0001', false],
      ['C2026-0002', true],
    ]);
    expect(await world.refusal(creditInvoice, { invoice, lines: null, why: '', issued: '2026-11-01' })).toBe(
      'invalid-input',
    );
  });
});
