import fc from 'fast-check';
import { sql } from 'kysely';
import { invoicesImporter } from '@/books/invoices/import';
import { postInvoices } from '@/books/invoices/post';
import { proposeAgain } from '@/books/matching/propose-again';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { DESK, INVOICES, LINES, opening, SPLIT } from './small-books';
import { DESK_HEAD, INVOICE_HEAD, statement, World } from './world';

/** The same files in whatever order and in however many pieces they come: the same books, the same explanations. */

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
  expect(expected.proposals.filter(({ certainty }) => certainty === 'proven').map(({ text }) => text)).toEqual(
    expect.arrayContaining(['CD P-2', 'KS-102', 'PAYER 0 KS-100']),
  );
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
