import fc from 'fast-check';
import { correctInvoice } from '@/books/billing/correct';
import { creditInvoice } from '@/books/billing/credit';
import { reverseReceipts } from '@/books/ledger/reverse';
import { mergePayers } from '@/books/payers/same';
import { confirmMatch } from '@/books/matching/confirm';
import { takeApart } from '@/books/matching/take-apart';
import { statementImporter } from '@/books/statements/import';
import { statementOfAccount } from '@/books/payers/account';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { agedInvoices, ageing } from '@/books/settling/ageing';
import { creditsOf, openInvoicesOf } from '@/books/settling/open';
import { settleInvoices, type SettleInput } from '@/books/settling/settle';
import { trail } from '@/books/trail/trail';
import { undoChange } from '@/books/undo';
import { addDays, plainDate, type PlainDate } from '@/core/calendar';
import { minor } from '@/core/money';
import { bill, earlyTerms, issue, payerNamed } from './bills';
import { DESK_HEAD, statement, useWorld } from './world';

const world = useWorld();
let payer: number;
beforeEach(async () => {
  payer = await payerNamed(world);
});

/** Money of the payer on the card desk, posted; without a document it is kept for them. */
async function receive(id: string, cents: number, document: string, day = '2026-11-10'): Promise<number> {
  const money = (cents / 100).toFixed(2);
  await world.bringIn(
    receiptsImporter,
    `${DESK_HEAD}${id},receipt,${day}T10:00:00Z,EUR,${money},0.00,${money},A. Tern,a.tern@mail.example,${document},,,,\n`,
  );
  await world.must(postReceipts, { filter: {} });
  return world.id('receipt', id);
}

const to = (invoice: number, amount: number, more: Partial<SettleInput['to'][number]> = {}) => ({
  invoice,
  amount: minor(amount),
  discount: false,
  writeOff: minor(0),
  ...more,
});
const undo = () => world.undoLast();
const openOf = async () =>
  (await openInvoicesOf(world.books.reader, payer, plainDate('2026-11-10'))).map(({ number, open }) => [number, open]);
const keptOf = async () => (await creditsOf(world.books.reader, payer)).map(({ left }) => left);

test('over: what an invoice does not take is kept, used on another, and taken off again', async () => {
  const first = await issue(world, await bill(world, payer, [10000]));
  const second = await issue(world, await bill(world, payer, [5000]));
  const receipt = await receive('CD-1', 15000, first.number);
  expect([await keptOf(), await openOf()]).toEqual([[2700], [['2026-0002', 6150]]]);
  const input = { from: [{ receipt }], to: [to(second.invoice, 2700)], date: null };
  await world.must(settleInvoices, input);
  expect([await keptOf(), await openOf()]).toEqual([[], [['2026-0002', 3450]]]);
  expect(await world.refusal(settleInvoices, { ...input, to: [to(second.invoice, 1)] })).toBe('not-enough-credit');
  await undo();
  expect([await keptOf(), await openOf()]).toEqual([[2700], [['2026-0002', 6150]]]);
  await undo();
  expect(await keptOf()).toEqual([]);
});

test('figure E by credit: the discount goes by the day of the money, and only where the rest is settled', async () => {
  const terms = await earlyTerms(world);
  const early = await issue(world, await bill(world, payer, [20000], { terms, issued: plainDate('2026-11-02') }));
  const late = await issue(world, await bill(world, payer, [5000], { issued: plainDate('2026-10-05') }));
  const receipt = await receive('CD-1', 30258, 'no such', '2026-11-12');
  const both = {
    from: [{ receipt }],
    date: null,
    to: [to(early.invoice, 24108, { discount: true }), to(late.invoice, 6150)],
  };
  expect(await world.refusal(settleInvoices, { ...both, to: [to(early.invoice, 24000, { discount: true })] })).toBe(
    'no-discount',
  );
  expect(await world.refusal(settleInvoices, { ...both, to: [to(late.invoice, 6150, { discount: true })] })).toBe(
    'no-discount',
  );
  await world.must(settleInvoices, both);
  expect(await world.balances()).toMatchObject({ '4800': 400, '2100': -4600 + 92 - 1150 });
  expect((await world.balances())['1100']).toBeUndefined();
});

test('a receipt that comes in time takes the discount by itself, one that comes later does not', async () => {
  const terms = await earlyTerms(world);
  const of = await bill(world, payer, [20000], { terms, issued: plainDate('2026-11-02') });
  const [intime, late] = [await issue(world, of), await issue(world, of)];
  await receive('CD-1', 24108, intime.number, '2026-11-12');
  await receive('CD-2', 24108, late.number, '2026-11-13');
  expect(await openOf()).toEqual([['2026-0002', 492]]);
  expect(await world.balances()).toMatchObject({ '4800': 400, '1200': 48216 });
});

test('a remainder is written off up to the limit of the books', async () => {
  const { invoice, number } = await issue(world, await bill(world, payer, [10000]));
  const receipt = await receive('CD-1', 12200, 'no such');
  const off = (amount: number) => ({
    from: [{ receipt }],
    to: [to(invoice, 12200, { writeOff: minor(amount) })],
    date: null,
  });
  expect(await world.refusal(settleInvoices, off(101))).toBe('write-off-limit');
  await world.must(settleInvoices, off(100));
  expect(await openOf()).toEqual([]);
  expect((await world.balances())['6900']).toBe(100);
  expect(number).toBe('2026-0001');
});

test.each([
  ['more than is open', (id: number) => ({ to: [to(id, 12301)] }), 'settles-too-much'],
  ['nothing', (id: number) => ({ to: [to(id, 0)] }), 'invalid-input'],
  ['less than nothing', (id: number) => ({ to: [to(id, -5)] }), 'invalid-input'],
  ['one invoice twice', (id: number) => ({ to: [to(id, 5), to(id, 5)] }), 'invalid-input'],
  ['an invoice that is not there', () => ({ to: [to(99, 5)] }), 'not-found'],
  ['before the money came', (id: number) => ({ to: [to(id, 5)], date: plainDate('2026-11-09') }), 'invalid-input'],
])('refused: %s', async (_name, change, code) => {
  const { invoice } = await issue(world, await bill(world, payer, [10000]));
  const receipt = await receive('CD-1', 20000, 'no such');
  expect(
    await world.refusal(settleInvoices, {
      from: [{ receipt }],
      date: null,
      ...(change(invoice) as Pick<SettleInput, 'to'>),
    }),
  ).toBe(code);
});

test('several receipts to several invoices, and a credit note’s credit as well', async () => {
  const paid = await issue(world, await bill(world, payer, [1000]));
  await receive('CD-0', 1230, paid.number);
  const { note } = await world.must(creditInvoice, { invoice: paid.invoice, lines: null, why: '', issued: null });
  const [a, b] = [await receive('CD-1', 1000, 'x'), await receive('CD-2', 1000, 'y')];
  const one = await issue(world, await bill(world, payer, [2000]));
  await world.must(settleInvoices, {
    from: [{ note }, { receipt: a }, { receipt: b }],
    to: [to(one.invoice, 2460)],
    date: null,
  });
  expect([await keptOf(), await openOf()]).toEqual([[770], []]);
});

test('credit paid back by the channel is no refund of income', async () => {
  await receive('CD-1', 5000, 'no such');
  await world.bringIn(
    receiptsImporter,
    `${DESK_HEAD}CD-2,refund,2026-11-11T10:00:00Z,EUR,-50.00,0.00,-50.00,A. Tern,a.tern@mail.example,,,,,CD-1\n`,
  );
  await world.must(postReceipts, { filter: {} });
  expect(await keptOf()).toEqual([]);
  const balances = await world.balances();
  expect([balances['4900'], balances['2200'], balances['1200']]).toEqual([undefined, undefined, undefined]);
});

test('a merged payer’s invoices and credit are the other’s', async () => {
  const other = await payerNamed(world, 'B. Gannet');
  await issue(world, await bill(world, payer, [10000]));
  await receive('CD-1', 500, 'x');
  await world.must(mergePayers, { from: payer, into: other });
  expect((await creditsOf(world.books.reader, other)).map(({ left }) => left)).toEqual([500]);
  expect((await ageing(world.books.reader, plainDate('2026-11-16'))).rows).toMatchObject([
    { payer: other, open: 12300 },
  ]);
});

test('a statement of account runs from opening to closing balance', async () => {
  const { number } = await issue(world, await bill(world, payer, [10000], { issued: plainDate('2026-10-20') }));
  await issue(world, await bill(world, payer, [1000]));
  await receive('CD-1', 15000, number);
  const account = await statementOfAccount(world.books.reader, payer, plainDate('2026-11-01'), plainDate('2026-11-30'));
  expect(account).toMatchObject({ opening: 12300, closing: 12300 + 1230 - 15000 });
  expect(account.lines.map(({ what, amount, balance }) => [what, amount, balance])).toEqual([
    ['Invoice', 1230, 13530],
    ['Payment', -12300, 1230],
    ['Kept for you', -2700, -1470],
  ]);
});

describe('ageing', () => {
  const on = (day: PlainDate) => ageing(world.books.reader, day);

  test('as it was then, whatever was corrected, paid, credited and reversed since', async () => {
    const { invoice, number } = await issue(
      world,
      await bill(world, payer, [10000], { issued: plainDate('2026-09-01') }),
    );
    const receipt = await receive('CD-1', 5000, number, '2026-10-01');
    await world.must(correctInvoice, { invoice, version: 1, bill: await bill(world, payer, [9000]), why: '' });
    expect((await on(plainDate('2026-09-30'))).rows).toMatchObject([{ days30: 12300, open: 12300, invoices: 1 }]);
    expect((await on(plainDate('2026-10-01'))).totals).toMatchObject({ days30: 7300, open: 7300 });
    expect((await on(plainDate('2026-11-16'))).totals).toMatchObject({ days90: 6070, open: 6070 });
    await world.must(reverseReceipts, { ids: [receipt] });
    expect((await on(plainDate('2026-11-16'))).totals.open).toBe(11070);
    expect(await agedInvoices(world.books.reader, payer, plainDate('2026-09-30'))).toMatchObject([
      { number, open: 12300 },
    ]);
  });

  test('on any day it is the receivable account’s balance, to the cent', async () => {
    const step = fc.record({
      act: fc.constantFrom('issue', 'receive', 'correct', 'credit', 'settle', 'undo', 'reverse'),
      cents: fc.integer({ min: 1, max: 50_000 }),
      day: fc.integer({ min: 0, max: 70 }),
      pick: fc.nat(20),
    });
    await fc.assert(
      fc.asyncProperty(fc.array(step, { minLength: 3, maxLength: 14 }), async (steps) => {
        await world.begin();
        payer = await payerNamed(world);
        const invoices: number[] = [];
        let n = 0;
        for (const { act, cents, day, pick } of steps) {
          const date = addDays(plainDate('2026-09-01'), day);
          const invoice = invoices[pick % Math.max(1, invoices.length)];
          if (act === 'issue' || invoice === undefined) {
            invoices.push((await issue(world, await bill(world, payer, [cents], { issued: date }))).invoice);
            continue;
          }
          const row = await world.books.reader
            .selectFrom('invoice')
            .selectAll()
            .where('id', '=', invoice)
            .executeTakeFirstOrThrow();
          if (act === 'receive') await receive(`CD-${++n}`, cents, pick % 3 ? row.number : 'none', date);
          if (act === 'correct')
            await world.run(correctInvoice, {
              invoice,
              version: row.version,
              bill: await bill(world, payer, [cents]),
              why: '',
            });
          if (act === 'credit')
            await world.run(creditInvoice, {
              invoice,
              lines: pick % 2 ? null : [{ line: 1, net: minor(cents) }],
              why: '',
              issued: null,
            });
          if (act === 'settle') {
            const [credit] = await creditsOf(world.books.reader, payer);
            if (credit)
              await world.run(settleInvoices, {
                from: [credit.source],
                to: [to(invoice, Math.min(cents, credit.left))],
                date: null,
              });
          }
          if (act === 'reverse' && n > 0)
            await world.run(reverseReceipts, { ids: [await world.id('receipt', `CD-${(pick % n) + 1}`)] });
          if (act === 'undo') {
            await world.run(undoChange, { audit: await world.lastAudit() });
          }
        }
        await world.expectSound();
        for (let day = 0; day < 80; day += 7) {
          const { balance, totals, beside } = await on(addDays(plainDate('2026-09-01'), day));
          expect([totals.open, beside]).toEqual([balance, 0]);
        }
      }),
      { numRuns: 12 },
    );
  });
});

test('figure E at the bank: a transfer for two invoices, one in time, the other too late', async () => {
  const terms = await earlyTerms(world);
  const early = await issue(world, await bill(world, payer, [20000], { terms, issued: plainDate('2026-11-02') }));
  const late = await issue(world, await bill(world, payer, [5000], { terms, issued: plainDate('2026-10-05') }));
  await world.bringInBytes(
    statementImporter,
    Buffer.from(statement(0, ['2026-11-12', 30258, 'TRANSFER A TERN'])),
    's.csv',
  );
  const line = await world.id('statement_line', 'TRANSFER A TERN');
  const parts = [
    { kind: 'invoice' as const, id: early.invoice, amount: minor(24108) },
    { kind: 'invoice' as const, id: late.invoice, amount: minor(6150) },
  ];
  const { match } = await world.must(confirmMatch, { line, parts, restTo: null });
  expect(await openOf()).toEqual([]);
  expect(await world.balances()).toMatchObject({ '4800': 400, '2100': -4600 - 1150 + 92 });
  await world.must(takeApart, { match });
  expect((await openOf()).map(([, open]) => open)).toEqual([6150, 24600]);
  await undo();
  expect(await openOf()).toEqual([]);
});

test('the trail leads through a settlement from either end, and from its own journal', async () => {
  const first = await issue(world, await bill(world, payer, [10000]));
  const second = await issue(world, await bill(world, payer, [2000]));
  const receipt = await receive('CD-1', 15000, first.number);
  await world.must(settleInvoices, { from: [{ receipt }], to: [to(second.invoice, 2460)], date: null });
  const titles = async (kind: 'receipt' | 'invoice' | 'journal', id: number) =>
    (await trail(world.books.reader, kind, id))!.stops.map(({ steps }) => steps.map(({ ref }) => ref));
  const both = [`invoice:${first.invoice}`, `invoice:${second.invoice}`];
  expect((await titles('receipt', receipt)).slice(0, 2)).toEqual([both, [`receipt:${receipt}`]]);
  expect((await titles('invoice', second.invoice)).slice(0, 2)).toEqual([[both[1]], [`receipt:${receipt}`]]);
  const { journal_id: journal } = await world.books.reader
    .selectFrom('settlement')
    .selectAll()
    .executeTakeFirstOrThrow();
  expect((await titles('journal', journal!))[0]).toEqual([both[1]]);
});
