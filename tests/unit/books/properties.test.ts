import fc from 'fast-check';
import { setPostingMode } from '@/books/channels/open-channel';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { reverseReceipts } from '@/books/ledger/reverse';
import { saveMapRule } from '@/books/map/rules';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { setAside, takeBackAside } from '@/books/receipts/set-aside';
import { plainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { DESK_HEAD, INVOICE_HEAD, World } from './world';
import { money } from './written-rows';

const RUNS = { numRuns: 8 };
const NOTES = ['rig check', 'rope', '', 'Rig check, berth 14', 'repair kit'];
const ITEMS = ['parts', 'lesson', '', 'repair'];

interface Sale {
  readonly cents: number;
  readonly fee: number | null;
  readonly day: number;
  readonly note: number;
  readonly item: number;
  readonly refunded: boolean;
  readonly invoice: boolean;
}

const sale: fc.Arbitrary<Sale> = fc.record({
  cents: fc.integer({ min: 200, max: 90_000 }),
  fee: fc.option(fc.integer({ min: 0, max: 99 })),
  day: fc.integer({ min: 1, max: 9 }),
  note: fc.nat({ max: NOTES.length - 1 }),
  item: fc.nat({ max: ITEMS.length - 1 }),
  refunded: fc.boolean(),
  invoice: fc.boolean(),
});
const sales = fc.array(sale, { minLength: 1, maxLength: 14 });

/** Rows of a sale, and of what was given back of it. */
function rowsOf({ cents, fee, day, note, item, refunded, invoice }: Sale, index: number): string[] {
  const row = (id: string, kind: string, gross: number, of: string) => {
    const charged = kind === 'receipt' ? fee : 0;
    const net = charged === null ? '' : money(gross - charged);
    const document = invoice ? 'KS-1' : '';
    return `${id},${kind},2026-11-0${day}T10:00:00Z,EUR,${money(gross)},${charged === null ? '' : money(charged)},${net},P${index % 3},,${document},${invoice ? '' : ITEMS[item]},"${NOTES[note]}",,${of}\n`;
  };
  const id = `R-${index}`;
  return [row(id, 'receipt', cents, ''), ...(refunded ? [row(`${id}-B`, 'refund', -Math.ceil(cents / 2), id)] : [])];
}

/** Books with an invoice and two rules; the world is closed behind what is done in it. */
async function inWorld<T>(does: (world: World) => Promise<T>): Promise<T> {
  const world = await World.open();
  try {
    await world.bringIn(
      invoicesImporter,
      `${INVOICE_HEAD}KS-1,P1,,2026-11-01,2026-11-15,EUR,repair,500.00,S23,115.00\n`,
    );
    await world.must(postInvoices, { filter: {} });
    const rule = async (name: string, conditions: object, code: string) =>
      world.must(saveMapRule, {
        id: null,
        name,
        active: true,
        conditions,
        landing: { income: await world.account(code) },
      });
    await rule('Rigs', { text: 'rig' }, '4020');
    await rule('Large', { amountFrom: 50_000 as Minor }, '4010');
    return await does(world);
  } finally {
    await world.close();
  }
}

const undoLast = async (world: World) => {
  await world.undoLast();
};

/** What each receipt was booked to: accounts with their amounts, in order. */
async function landed(world: World): Promise<Record<string, string>> {
  const rows = await world.books.reader
    .selectFrom('receipt')
    .innerJoin('journal_line', 'journal_line.journal_id', 'receipt.journal_id')
    .innerJoin('account', 'account.id', 'journal_line.account_id')
    .select(['external_id', 'account.code', 'base_amount', 'because'])
    .orderBy('external_id')
    .orderBy('line_no')
    .execute();
  const of: Record<string, string> = {};
  for (const row of rows)
    of[row.external_id] = `${of[row.external_id] ?? ''} ${row.code} ${row.base_amount} ${row.because}`;
  return of;
}

test('posted, reversed and posted again, as often as you like, leaves the balances of one posting', async () => {
  await fc.assert(
    fc.asyncProperty(sales, fc.boolean(), fc.boolean(), async (some, byDay, byName) => {
      await inWorld(async (world) => {
        if (byDay) await world.must(setPostingMode, { channel: 1, mode: 'summary', from: plainDate('2026-11-01') });
        await world.bringIn(receiptsImporter, DESK_HEAD + some.flatMap(rowsOf).join(''));
        await world.must(postReceipts, { filter: {} });
        const once = await world.balances();
        const paid = async () =>
          (await world.books.reader.selectFrom('invoice').select('paid').executeTakeFirstOrThrow()).paid;
        const settled = await paid();
        const ids = (await world.books.reader.selectFrom('receipt').select('id').execute()).map(({ id }) => id);
        const all = byName ? { ids } : { filter: {} };
        await world.must(reverseReceipts, all);
        expect((await world.balances())['1200']).toBeUndefined();
        expect(await paid()).toBe(0);
        expect(await world.refusal(reverseReceipts, all)).toBe('not-posted');
        await world.must(postReceipts, all);
        expect(await world.balances()).toEqual(once);
        await world.must(reverseReceipts, all);
        await undoLast(world);
        expect(await world.balances()).toEqual(once);
        expect(await paid()).toBe(settled);
        await world.expectSound();
      });
    }),
    RUNS,
  );
}, 120_000);

test('a day’s summary is the sum of its details, account by account', async () => {
  await fc.assert(
    fc.asyncProperty(sales, async (some) => {
      const rows = DESK_HEAD + some.flatMap(rowsOf).join('');
      const balances = (mode: 'each' | 'summary') =>
        inWorld(async (world) => {
          if (mode === 'summary') await world.must(setPostingMode, { channel: 1, mode, from: plainDate('2026-11-01') });
          await world.bringIn(receiptsImporter, rows);
          await world.must(postReceipts, { filter: {} });
          const days = await world.books.reader.selectFrom('receipt').select('book_date').distinct().execute();
          expect(await world.count('summary')).toBe(mode === 'summary' ? days.length : 0);
          return world.balances();
        });
      expect(await balances('summary')).toEqual(await balances('each'));
    }),
    RUNS,
  );
}, 120_000);

test('what the map answers does not depend on the order of rows, nor on how they are parted into files', async () => {
  // Without documents: what is left of an invoice goes by who pays first, and that is no answer of the map.
  const unowed = sales.map((list) => list.map((one) => ({ ...one, invoice: false })));
  await fc.assert(
    fc.asyncProperty(unowed, fc.infiniteStream(fc.nat()), fc.nat({ max: 20 }), async (some, dice, cut) => {
      const rows = some.flatMap(rowsOf);
      const inOrder = await inWorld(async (world) => {
        await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
        await world.must(postReceipts, { filter: {} });
        return landed(world);
      });
      const shuffled = rows
        .map((row) => ({ row, at: dice.next().value }))
        .sort((a, b) => a.at - b.at)
        .map(({ row }) => row);
      const otherwise = await inWorld(async (world) => {
        for (const part of [shuffled.slice(0, cut), shuffled.slice(cut)]) {
          if (part.length > 0) await world.bringIn(receiptsImporter, DESK_HEAD + part.join(''));
        }
        await world.must(postReceipts, { filter: {} });
        return landed(world);
      });
      expect(otherwise).toEqual(inOrder);
    }),
    RUNS,
  );
}, 120_000);

test('all that is shown is set aside for one reason, and all of it comes back', async () => {
  await inWorld(async (world) => {
    const one = { cents: 1000, fee: 44, day: 3, note: 1, item: 0, refunded: false, invoice: false };
    await world.bringIn(receiptsImporter, DESK_HEAD + [one, one, one].flatMap((s, i) => rowsOf(s, i)).join(''));
    await world.must(postReceipts, { ids: [await world.id('receipt', 'R-1')] });
    expect(await world.must(setAside, { filter: { text: 'rope' }, reason: 'a test run' })).toEqual({ count: 2 });
    expect(await world.must(setAside, { filter: {}, reason: 'again' })).toEqual({ count: 0 });
    expect((await world.must(postReceipts, { filter: {} })).posted).toBe(0);
    await undoLast(world);
    expect(await world.count('receipt')).toBe(3);
    const aside = await world.books.reader.selectFrom('receipt').select('id').where('aside', 'is not', null).execute();
    expect(aside).toEqual([]);
    expect(await world.must(takeBackAside, { ids: [1] })).toEqual({ count: 0 });
  });
});
