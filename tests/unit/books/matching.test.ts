import { closeThrough } from '@/books/ledger/close';
import { confirmMatch, confirmProven } from '@/books/matching/confirm';
import { candidates } from '@/books/matching/candidates';
import { workingSheet } from '@/books/matching/sheet';
import { takeApart } from '@/books/matching/take-apart';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { payoutEntry } from '@/books/payouts/entry';
import { bankProofs, clearingProofs } from '@/books/proof/clearing';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { trail } from '@/books/trail/trail';
import type { PlainDate } from '@/core/calendar';
import { DESK_HEAD, FIGURE_A, statement, useWorld } from './world';

const world = useWorld();

async function figureA(): Promise<number> {
  await world.bringIn(invoicesImporter, FIGURE_A.invoice);
  await world.bringIn(receiptsImporter, FIGURE_A.desk);
  await world.must(postInvoices, { filter: {} });
  await world.must(postReceipts, { filter: {} });
  await world.bringIn(statementImporter, FIGURE_A.statement);
  return world.id('statement_line', 'CD SETTLEMENT');
}

const matchOf = async (line: number) =>
  (
    await world.books.reader
      .selectFrom('statement_line')
      .select('match_id')
      .where('id', '=', line)
      .executeTakeFirstOrThrow()
  ).match_id;

describe('an announced payout', () => {
  test('is laid on the sheet ready-made, with its reasons', async () => {
    const sheet = (await workingSheet(world.books.reader, await figureA()))!;
    expect(sheet.certainty).toBe('proven');
    expect(sheet.parts.map((p) => [p.title, p.gross, p.fee, p.net])).toEqual([['Payout P-1', 14760, 305, 14455]]);
    expect(sheet.because).toContain('2 working days after it left, 2 is usual');
  });

  test('confirmed, clearing is back at zero and proves', async () => {
    const line = await figureA();
    const payout = await world.id('payout', 'P-1');
    const { entry } = await world.must(confirmMatch, { line, parts: [{ kind: 'payout', id: payout }], restTo: null });
    expect(entry.lines.map((l) => [l.code, l.amount])).toEqual([
      ['1010', 14455],
      ['1200', -14455],
    ]);
    expect((await world.balances())['1200']).toBeUndefined();
    expect((await clearingProofs(world.books.reader))[0]).toMatchObject({ balance: 0, proves: true, other: 0 });
    expect(await world.count('proposal')).toBe(0);
    const kept = await world.books.reader.selectFrom('match').select('certainty').executeTakeFirstOrThrow();
    expect(kept.certainty).toBe('proven');
  });

  test('all that is proven in one go; a line that is not proven refuses all', async () => {
    const line = await figureA();
    expect(await world.refusal(confirmProven, { lines: [line, 999] })).toBe('not-proven');
    expect(await matchOf(line)).toBeNull();
    expect(await world.must(confirmProven, { lines: [line] })).toEqual({ confirmed: 1, amount: 14455 });
  });
});

test('a payout shows the entry it will write, and once banked the entry it wrote, with the rest of its match', async () => {
  await figureA();
  await world.bringIn(statementImporter, statement(114_455, ['2026-11-13', 14_400, 'SHORT']));
  const id = await world.id('payout', 'P-1');
  const lines = async () => (await payoutEntry(world.books.reader, id)).map((l) => [l.code, l.amount]);
  expect(await lines()).toEqual([
    ['1010', 14455],
    ['1200', -14455],
  ]);
  const line = await world.id('statement_line', 'SHORT');
  await world.must(confirmMatch, { line, parts: [{ kind: 'payout', id }], restTo: await world.account('6110') });
  expect(await lines()).toEqual([
    ['1010', 14400],
    ['6110', 55],
    ['1200', -14455],
  ]);
});

test('a second tab is told who was first, and nothing is written twice', async () => {
  const line = await figureA();
  const input = { line, parts: [{ kind: 'payout' as const, id: await world.id('payout', 'P-1') }], restTo: null };
  const both = await Promise.all([world.run(confirmMatch, input), world.run(confirmMatch, input)]);
  expect(both.map((r) => (r.ok ? 'ok' : r.refusal.code)).sort()).toEqual(['line-taken', 'ok']);
  expect(await world.count('match')).toBe(1);
});

test('a payout that explains a line explains no other', async () => {
  const line = await figureA();
  const part = { kind: 'payout' as const, id: await world.id('payout', 'P-1') };
  await world.must(confirmMatch, { line, parts: [part], restTo: null });
  await world.bringIn(statementImporter, statement(114_455, ['2026-11-13', 14_455, 'AGAIN']));
  const other = await world.id('statement_line', 'AGAIN');
  expect(await world.refusal(confirmMatch, { line: other, parts: [part], restTo: null })).toBe('part-taken');
});

describe('a deposit without a payout report: worked figure B', () => {
  const four = [
    ['R1', '310.00'],
    ['R2', '85.00'],
    ['R3', '147.60'],
    ['R4', '62.40'],
  ];
  async function ready() {
    await world.bringIn(
      receiptsImporter,
      DESK_HEAD + four.map(([id, gross]) => `${id},receipt,2026-11-10T10:00:00Z,EUR,${gross},,,,,,,,,\n`).join(''),
    );
    await world.must(postReceipts, { filter: {} });
    await world.bringIn(statementImporter, statement(0, ['2026-11-12', 59_252, 'CD SETTLEMENT 1011']));
    const parts = await Promise.all(
      four.map(async ([id]) => ({ kind: 'receipt' as const, id: await world.id('receipt', id!) })),
    );
    return { line: await world.id('statement_line', 'CD SETTLEMENT 1011'), parts };
  }

  test('the receipts are offered, and the list narrows by amount and name', async () => {
    const { line } = await ready();
    const all = await candidates(world.books.reader, line, { text: '', amount: null });
    expect(all.receipts.map((r) => [r.gross, r.fee, r.feeFrom])).toContainEqual([31000, 614, 'schedule']);
    const one = await candidates(world.books.reader, line, { text: '62.40', amount: 6240 as never });
    expect(one.receipts.map((r) => r.title)).toEqual(['Receipt R4']);
  });

  test('with a remainder it is refused with the figure; booked as fee it is 12.48', async () => {
    const { line, parts } = await ready();
    const before = await world.balances();
    expect(await world.run(confirmMatch, { line, parts, restTo: null })).toMatchObject({
      refusal: { code: 'left-to-explain', left: 2 },
    });
    expect(await world.balances()).toEqual(before);
    await world.must(confirmMatch, { line, parts, restTo: await world.account('6100') });
    expect(await world.balances()).toMatchObject({ '6100': 1248 });
    expect((await world.balances())['1200']).toBeUndefined();
    expect((await clearingProofs(world.books.reader))[0]).toMatchObject({ proves: true, balance: 0 });
  });

  test('a receipt that is not posted, or is in a payout, is refused', async () => {
    const { line } = await ready();
    await world.bringIn(
      receiptsImporter,
      `${DESK_HEAD}N,receipt,2026-11-11T10:00:00Z,EUR,5.00,,,,,,,,,\nQ,receipt,2026-11-11T10:00:00Z,EUR,5.00,,,,,,,,P-7,\n`,
    );
    const part = async (id: string) => [{ kind: 'receipt' as const, id: await world.id('receipt', id) }];
    expect(await world.refusal(confirmMatch, { line, parts: await part('N'), restTo: null })).toBe('part-not-posted');
    expect(await world.refusal(confirmMatch, { line, parts: await part('Q'), restTo: null })).toBe('part-in-payout');
  });

  test('the rest goes to no account that documents keep', async () => {
    const { line, parts } = await ready();
    expect(await world.refusal(confirmMatch, { line, parts, restTo: await world.account('1200') })).toBe(
      'rest-account',
    );
    expect(await world.refusal(confirmMatch, { line, parts: [], restTo: null })).toBe('nothing-laid');
  });
});

describe('taking a match apart', () => {
  test('the dry run tells the consequence; then everything is as before, and can be confirmed again', async () => {
    const line = await figureA();
    const before = await world.balances();
    await world.must(confirmProven, { lines: [line] });
    const confirmed = await world.balances();
    const match = (await matchOf(line))!;
    const told = await world.run(takeApart, { match }, true);
    expect(told).toMatchObject({ ok: true, value: { amount: 14455, freed: { payout: 1, receipt: 0, invoice: 0 } } });
    expect(await world.balances()).toEqual(confirmed);
    await world.must(takeApart, { match });
    expect(await world.balances()).toEqual(before);
    expect((await workingSheet(world.books.reader, line))!.certainty).toBe('proven');
    expect(await world.refusal(takeApart, { match })).toBe('match-undone');
    await world.undoLast();
    expect(await world.balances()).toEqual(confirmed);
  });

  test('an invoice paid by transfer is open again', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    await world.must(postInvoices, { filter: {} });
    await world.bringIn(statementImporter, statement(0, ['2026-11-12', 10_000, 'A TERN']));
    const line = await world.id('statement_line', 'A TERN');
    const id = await world.id('invoice', 'KS-2041');
    const pay = (amount: number) => ({
      line,
      parts: [{ kind: 'invoice' as const, id, amount: amount as never }],
      restTo: null,
    });
    expect(await world.refusal(confirmMatch, pay(20_000))).toBe('part-too-large');
    await world.must(confirmMatch, pay(10_000));
    expect(await world.balances()).toMatchObject({ '1100': 4760 });
    await world.must(takeApart, { match: (await matchOf(line))! });
    expect(await world.balances()).toMatchObject({ '1100': 14760 });
  });
});

test('a closed day takes no match', async () => {
  const line = await figureA();
  await world.must(closeThrough, { date: '2026-11-12' as PlainDate, reopen: false });
  expect(await world.refusal(confirmProven, { lines: [line] })).toBe('period-closed');
});

test('the bank proves: statement less what is to explain is the ledger', async () => {
  await world.bringIn(statementImporter, statement(2_431_860, ['2026-11-12', 100, 'A'], ['2026-11-13', -300, 'B']));
  expect((await bankProofs(world.books.reader))[0]).toMatchObject({
    difference: 0,
    toExplain: { count: 2, amount: -200 },
  });
  await world.must(confirmMatch, {
    line: await world.id('statement_line', 'B'),
    parts: [],
    restTo: await world.account('6010'),
  });
  expect((await bankProofs(world.books.reader))[0]).toMatchObject({ difference: 0, ledger: 2_431_560 });
});

describe('the trail', () => {
  test('is the same from the invoice and from the statement line', async () => {
    const line = await figureA();
    await world.must(confirmProven, { lines: [line] });
    const walk = async (kind: 'invoice' | 'receipt' | 'payout' | 'line', id: number) => {
      const found = (await trail(world.books.reader, kind, id))!;
      return found.stops.map((stop) => [stop.station, stop.steps.map((step) => step.ref), stop.gap]);
    };
    const whole = await walk('invoice', 1);
    expect(whole).toEqual([
      ['Owed', ['invoice:1'], null],
      ['Collected', ['receipt:1'], null],
      ['In transit', ['payout:1'], null],
      ['Banked', [`line:${line}`], null],
    ]);
    expect(await walk('receipt', 1)).toEqual(whole);
    expect(await walk('payout', 1)).toEqual(whole);
    expect(await walk('line', line)).toEqual(whole);
  });

  test('leads from a reversal to what it reversed, and names what is awaited', async () => {
    await world.bringIn(invoicesImporter, FIGURE_A.invoice);
    const unpaid = (await trail(world.books.reader, 'invoice', 1))!;
    expect(unpaid.stops.find((stop) => stop.station === 'Collected')).toMatchObject({
      steps: [],
      gap: 'Not paid yet.',
    });
    expect(await trail(world.books.reader, 'invoice', 99)).toBeNull();
    const line = await figureA();
    await world.must(confirmProven, { lines: [line] });
    await world.must(takeApart, { match: 1 });
    const { id } = await world.books.reader
      .selectFrom('journal')
      .select('id')
      .orderBy('id', 'desc')
      .executeTakeFirstOrThrow();
    expect((await trail(world.books.reader, 'journal', id))!.entered).toBe(`line:${line}`);
  });
});
