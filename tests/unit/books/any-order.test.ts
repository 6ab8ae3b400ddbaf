import fc from 'fast-check';
import { sql } from 'kysely';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { proposeAgain } from '@/books/matching/propose-again';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { DESK_HEAD, INVOICE_HEAD, statement, World } from './world';

/** The same files in whatever order and in however many pieces they come: the same books, the same explanations. */

const money = (cents: number) => (cents / 100).toFixed(2);
const day = (n: number) => `2026-11-${String(n).padStart(2, '0')}`;

const INVOICES = [10_000, 10_000, 7_500, 3_000, 9_900, 5_000].map((net, n) => `KS-${100 + n},Payer ${n % 4},,2026-10-0${1 + (n % 5)},2026-11-0${1 + (n % 5)},EUR,repair,${money(net)},S23,\n`); // prettier-ignore
const DESK = [
  ...[4_000, 4_000, 6_150, 8_200].flatMap((net, n) => [
    `R-${n},receipt,${day(2 + n)}T10:00:00Z,EUR,${money(net + 100)},1.00,${money(net)},,,,,,P-${n},\n`,
    `P-${n},payout,${day(3 + n)}T05:00:00Z,EUR,-${money(net)},,-${money(net)},,,,,,,\n`,
  ]),
  ...[1_200, 1_300, 1_400].map((gross, n) => `F-${n},receipt,${day(9)}T1${n}:00:00Z,EUR,${money(gross)},0.20,${money(gross - 20)},,,,,,,\n`), // prettier-ignore
];
const LINES = [
  [day(5), 4_000, 'CD A'],
  [day(6), 4_000, 'CD B'],
  [day(7), 6_150, 'CD P-2'],
  [day(9), 8_200, 'CD C'],
  [day(9), 12_300, 'PAYER 0 KS-100'],
  [day(10), 12_300, 'PAYER 1'],
  [day(10), 9_225, 'KS-102'],
  [day(11), 3_840, 'CD RUN'],
  [day(12), -2_500, 'RENT'],
  [day(12), 777, 'WHO KNOWS'],
] as const;
/** The bank's lines in two statements, each with its balances. */
const SPLIT = 6;
const opening = LINES.slice(0, SPLIT).reduce((sum, [, amount]) => sum + amount, 0);

type Step = (world: World) => Promise<unknown>;
const STEPS: Readonly<Record<string, Step>> = {
  'the first invoices': (world) => world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.slice(0, 3).join('')),
  'the other invoices': (world) => world.bringIn(invoicesImporter, INVOICE_HEAD + INVOICES.slice(3).join('')),
  'the first receipts': (world) => world.bringIn(receiptsImporter, DESK_HEAD + DESK.slice(0, 5).join('')),
  'the other receipts': (world) => world.bringIn(receiptsImporter, DESK_HEAD + DESK.slice(5).join('')),
  'the first statement': (world) => world.bringIn(statementImporter, statement(0, ...LINES.slice(0, SPLIT))),
  'the other statement': (world) => world.bringIn(statementImporter, statement(opening, ...LINES.slice(SPLIT))),
  'all once more': async (world) => {
    await world.bringIn(invoicesImporter, INVOICE_HEAD + [...INVOICES].reverse().join(''));
    await world.bringIn(receiptsImporter, DESK_HEAD + DESK.join(''));
    await world.bringIn(statementImporter, statement(0, ...LINES));
  },
};

/** What each line is said to be, by what the bank says of it, and what the books hold, by account. */
async function said(world: World) {
  const { rows } = await sql<{ text: string; certainty: string; laid: string }>`
    SELECT l.text, q.certainty, coalesce((SELECT group_concat(name, ' ') FROM (SELECT CASE x.kind
      WHEN 'payout' THEN (SELECT external_id FROM payout WHERE id = x.ref_id)
      WHEN 'receipt' THEN (SELECT external_id FROM receipt WHERE id = x.ref_id)
      WHEN 'invoice' THEN (SELECT number FROM invoice WHERE id = x.ref_id) ELSE x.kind END AS name
      FROM proposal_part x WHERE x.statement_line_id = l.id AND x.rank = 0 ORDER BY name)), '') AS laid
    FROM proposal q JOIN statement_line l ON l.id = q.statement_line_id ORDER BY l.text
  `.execute(world.books.reader);
  return { proposals: rows, balances: await world.balances() };
}

async function worked(order: readonly string[], postEach: boolean) {
  const world = await World.open();
  try {
    for (const step of order) {
      await STEPS[step]!(world);
      if (!postEach) continue;
      await world.must(postInvoices, { filter: {} });
      await world.must(postReceipts, { filter: {} });
    }
    await world.must(postInvoices, { filter: {} });
    await world.must(postReceipts, { filter: {} });
    await world.expectSound();
    const found = await said(world);
    // What was kept up to date on the way is what asking everything once more gives.
    await world.must(proposeAgain, {});
    expect((await said(world)).proposals).toEqual(found.proposals);
    return found;
  } finally {
    await world.close();
  }
}

test('in any order, posted at once or on the way, brought in twice: the same is said and held', async () => {
  const usual = Object.keys(STEPS).filter((step) => step !== 'all once more');
  const expected = await worked(usual, false);
  expect(expected.proposals.filter(({ certainty }) => certainty === 'proven').map(({ text }) => text)).toEqual(expect.arrayContaining(['CD P-2', 'KS-102', 'PAYER 0 KS-100'])); // prettier-ignore
  expect(expected.proposals).toHaveLength(LINES.length);
  const orders = fc.shuffledSubarray(Object.keys(STEPS), { minLength: usual.length + 1 });
  await fc.assert(
    fc.asyncProperty(orders, fc.boolean(), async (order, postEach) => {
      const found = await worked(order, postEach);
      expect(found.proposals).toEqual(expected.proposals);
      expect(found.balances).toEqual(expected.balances);
    }),
    { numRuns: 12 },
  );
});
