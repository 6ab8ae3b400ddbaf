import fc from 'fast-check';
import { sql } from 'kysely';
import { openChannel } from '@/books/channels/open-channel';
import { dayDocument } from '@/books/receipts/day-document';
import { receiptsFrom } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { takeChange } from '@/books/receipts/take-change';
import { plainDate } from '@/core/calendar';
import { addItem, TILL_DAYS, TILL_DAYS_HEAD, TILL_FIGURE_D, tillSettings } from './channel-fixtures';
import { money } from './written-rows';
import { useWorld } from './world';

/** A till's day that the till tells otherwise later: its lines and tenders are exchanged whole. */
const world = useWorld();
let channel: number;
let importer: ReturnType<typeof receiptsFrom>;

async function open(): Promise<void> {
  await world.begin();
  await addItem(world, { code: 'tea', name: 'Tea', income: '4040', taxCode: 2 });
  await addItem(world, { code: 'cake', name: 'Cake', income: '4010', taxCode: 2 });
  const settings = await tillSettings(world, {
    giftCards: { make: { code: '2400', name: 'Gift cards not used yet' } },
  });
  channel = (await world.must(openChannel, { draft: null, settings })).channel;
  importer = receiptsFrom({ channel, profile: { fingerprint: 'days', settings: TILL_DAYS } });
}
beforeEach(open);

const DAY = 'day TEA 2026-11-14';
/** The day of figure D with a cake that was rung up late, and paid by card. */
const WITH_CAKE = TILL_FIGURE_D.replace('paid by,card,178.70', 'paid by,card,190.20').replace(
  '2026-11-14,tips',
  '2026-11-14,sale,cake,10.13,1.37,3,,TEA\n2026-11-14,tips',
);

/** Lines and tenders as they stand in the books, in their order. */
async function shape(): Promise<unknown> {
  const lines = await sql`
    SELECT l.receipt_id, l.line_no, i.code, l.description, l.units, l.gross, l.discount, l.tax
    FROM receipt_line l LEFT JOIN item i ON i.id = l.item_id ORDER BY 1, 2
  `.execute(world.books.reader);
  const tenders = await sql`
    SELECT receipt_id, tender, amount FROM receipt_tender ORDER BY 1, 2
  `.execute(world.books.reader);
  return { lines: lines.rows, tenders: tenders.rows };
}
const waiting = async () =>
  (await world.books.reader.selectFrom('receipt_change').select('receipt_id').execute()).length;

test('waits beside the day, which is as it was until it is taken over', async () => {
  await world.bringIn(importer, TILL_FIGURE_D);
  const before = await shape();
  expect(await world.bringIn(importer, WITH_CAKE)).toMatchObject({ added: 0, changed: 1, refused: 0 });
  expect([await shape(), await waiting()]).toEqual([before, 1]);
  // Neither file says anything new; which of them the till wrote later is for somebody to say.
  for (const again of [WITH_CAKE, TILL_FIGURE_D]) {
    await world.bringIn(importer, again);
    expect([await shape(), await waiting()]).toEqual([before, 1]);
  }
});

test('is taken over with every line and tender: reversed, posted anew, and shown on the day’s page', async () => {
  await world.bringIn(importer, TILL_FIGURE_D);
  const id = await world.id('receipt', DAY);
  await world.must(postReceipts, { ids: [id] });
  const [first, lines] = [await world.balances(), await shape()];
  await world.bringIn(importer, WITH_CAKE);
  await world.must(takeChange, { receipt: id });
  const then = await world.balances();
  // 11.50 more by card: 10.13 of cake and the tax on it.
  const moved = (code: string) => (then[code] ?? 0) - (first[code] ?? 0);
  expect([moved('1210'), moved('4010'), moved('2100'), moved('4040'), moved('1030')]).toEqual([
    1_150, -1_013, -137, 0, 0,
  ]);
  const document = await dayDocument(world.books.reader, channel, plainDate('2026-11-14'));
  expect(document!.sites[0]!.items.map(({ name, units }) => [name, units])).toEqual([
    ['Tea', 118_000],
    ['Cake', 3_000],
  ]);
  expect(await waiting()).toBe(0);
  await world.undoLast();
  expect([await world.balances(), await shape(), await waiting()]).toEqual([first, lines, 1]);
  // And forward again.
  await world.undoLast();
  expect(await world.balances()).toEqual(then);
});

test('whatever the till says later, taken over it is what a first reading of that would have been', async () => {
  const amount = fc.integer({ min: 100, max: 90_000 });
  const sold = fc.record({
    tea: amount,
    cake: fc.option(amount),
    tips: fc.nat(2_000),
    cash: fc.nat(100),
    units: fc.integer({ min: 1, max: 99 }),
  });
  type Sold = typeof sold extends fc.Arbitrary<infer T> ? T : never;
  /** A day that is paid by what was sold: a share of it in cash, the rest by card. */
  const file = ({ tea, cake, tips, cash, units }: Sold) => {
    const taxed = (net: number) => Math.round(net * 0.135);
    const total = tea + taxed(tea) + (cake === null ? 0 : cake + taxed(cake)) + tips;
    const inCash = Math.floor((total * cash) / 100);
    const rows = [
      `sale,tea,${money(tea)},${money(taxed(tea))},${units}`,
      ...(cake === null ? [] : [`sale,cake,${money(cake)},${money(taxed(cake))},1`]),
      ...(tips === 0 ? [] : [`tips,,${money(tips)},,`]),
      ...(inCash === 0 ? [] : [`paid by,cash,${money(inCash)},,`]),
      ...(inCash === total ? [] : [`paid by,card,${money(total - inCash)},,`]),
    ];
    return TILL_DAYS_HEAD + rows.map((row) => `2026-11-14,${row},,TEA`).join('\n');
  };
  await fc.assert(
    fc.asyncProperty(sold, sold, fc.boolean(), async (first, later, posted) => {
      const read = async (text: string) => {
        expect(await world.bringIn(importer, text)).toMatchObject({ refused: 0 });
        if (posted) await world.must(postReceipts, { filter: {} });
      };
      await open();
      await read(file(later));
      const [once, balances] = [await shape(), await world.balances()];
      await open();
      await read(file(first));
      const [before, was] = [await shape(), await world.balances()];
      await world.bringIn(importer, file(later));
      if (JSON.stringify(before) === JSON.stringify(once)) return expect(await waiting()).toBe(0);
      await world.must(takeChange, { receipt: await world.id('receipt', DAY) });
      expect([await shape(), await world.balances()]).toEqual([once, balances]);
      await world.undoLast();
      expect([await shape(), await world.balances()]).toEqual([before, was]);
      await world.expectSound();
    }),
    { numRuns: 10 },
  );
});
