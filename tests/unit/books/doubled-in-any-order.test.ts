import fc from 'fast-check';
import { sql } from 'kysely';
import { denyDoubled } from '@/books/doubled/mend';
import { confirmMatch } from '@/books/matching/confirm';
import { proposeAgain } from '@/books/matching/propose-again';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { lineRows } from '@/books/statements/list';
import type { AccountId } from '@/core/ledger';
import { minor } from '@/core/money';
import { money } from './small-books';
import { DESK_HEAD, statement, World } from './world';

let world: World;
let income: AccountId;
beforeEach(async () => {
  world = await World.open();
  income = await world.account('4010');
});
afterEach(async () => {
  await world.expectSound();
  await world.close();
});

const db = () => world.books.reader;
/** A receipt and the payout that it went in, of the same day. */
const paidOut = (no: number, day: string, gross: number, fee: number) =>
  `R-${no},receipt,${day}T10:00:00Z,EUR,${money(gross)},${money(fee)},,,,,,,P-${no},\nP-${no},payout,${day}T23:50:00Z,EUR,-${money(gross - fee)},,-${money(gross - fee)},,,,,,,\n`;

test('in whichever order things come and are said, no payout and no receipt counts twice with two deposits', async () => {
  // Deposits of two amounts, two of them naming a payout; two payouts of the one amount, one of the other.
  const deposits = [
    ['CARDS P-1', 9_785],
    ['TAKINGS', 9_785],
    ['MORE TAKINGS', 9_785],
    ['CARDS P-3', 4_000],
    ['SHOP', 4_000],
  ] as const;
  const desk = [
    paidOut(1, '2026-11-02', 10_000, 215),
    paidOut(2, '2026-11-03', 10_000, 215),
    paidOut(3, '2026-11-03', 4_100, 100),
  ];
  const steps: Readonly<Record<string, (n: number) => Promise<unknown>>> = {
    'one is booked to income': async (n) => {
      const [text, amount] = deposits[n % 5]!;
      const { rows } = await sql<{
        id: number;
      }>`SELECT id FROM statement_line WHERE text = ${text} AND match_id IS NULL`.execute(db());
      if (rows[0])
        await world.must(confirmMatch, {
          line: rows[0].id,
          parts: [
            {
              kind: 'account',
              id: income,
              amount: minor(amount),
              dimensions: {},
              taxCode: null,
              rule: null,
              ruleId: null,
              payer: null,
            },
          ],
          restTo: null,
        });
    },
    'receipts come': async (n) => {
      await world.bringIn(receiptsImporter, DESK_HEAD + desk[n % 3]!);
      await world.must(postReceipts, { filter: {} });
    },
    'one is other money': async (n) => {
      const found = await lineRows(db(), { state: 'doubled' }, null, 10);
      if (found.length > 0) await world.must(denyDoubled, { line: found[n % found.length]!.id, denied: true });
    },
    'the last is taken back': () => world.undoLast().catch(() => undefined),
    'all is asked again': () => world.must(proposeAgain, {}),
  };
  const step = fc.tuple(fc.constantFrom(...Object.keys(steps)), fc.nat(14));
  let seen = 0;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.nat(4), { maxLength: 5 }),
      fc.array(step, { minLength: 4, maxLength: 12 }),
      async (booked, list) => {
        await world.close();
        world = await World.open();
        await world.bringIn(
          statementImporter,
          statement(0, ...deposits.map(([text, amount]) => ['2026-11-05', amount, text] as const)),
        );
        for (const n of booked) await steps['one is booked to income']!(n);
        for (const [what, n] of list) {
          await steps[what]!(n);
          const { rows } = await sql<{ thing: string; deposits: number }>`
          SELECT x.kind || ' ' || x.ref_id AS thing, count(*) AS deposits FROM doubled d
          JOIN doubled_part x ON x.statement_line_id = d.statement_line_id
          WHERE d.denied = 0 AND x.kind <> 'invoice' GROUP BY 1 HAVING count(*) > 1
        `.execute(db());
          expect([what, rows]).toEqual([what, []]);
          seen += (await lineRows(db(), { state: 'doubled' }, null, 10)).length;
        }
      },
    ),
    { numRuns: 15 },
  );
  // It came to it at all.
  expect(seen).toBeGreaterThan(0);
});
