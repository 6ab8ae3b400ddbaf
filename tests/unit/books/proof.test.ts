import fc from 'fast-check';
import { sql } from 'kysely';
import { reverse } from '@/books/ledger/reverse';
import { confirmMatch } from '@/books/matching/confirm';
import { takeApart } from '@/books/matching/take-apart';
import { clearingProofs, dailyBalances } from '@/books/proof/clearing';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { plainDate } from '@/core/calendar';
import { DESK_HEAD, statement, World } from './world';

/** A few receipts over a few payouts, whose own figures may be off, and one deposit for each. */
function files(receipts: readonly { cents: number; fee: number | null; payout: number }[], off: readonly number[]) {
  const money = (cents: number) => (cents / 100).toFixed(2);
  const name = (payout: number) => (payout === 0 ? '' : `P-100${payout}`);
  const net = [1, 2].map(
    (p) => receipts.filter((r) => r.payout === p).reduce((t, r) => t + r.cents - (r.fee ?? 0), 0) + off[p - 1]!,
  );
  const desk = [
    ...receipts.map(
      (r, i) =>
        `R${i},receipt,2026-11-0${(i % 8) + 1}T10:00:00Z,EUR,${money(r.cents)},${r.fee === null ? '' : money(r.fee)},,,,,,,${name(r.payout)},\n`,
    ),
    ...[1, 2]
      .filter((p) => net[p - 1]! > 0)
      .map((p) => `${name(p)},payout,2026-11-10T05:00:00Z,EUR,-${money(net[p - 1]!)},,,,,,,,,\n`),
  ];
  const landed = [1, 2]
    .filter((p) => net[p - 1]! > 0)
    .map((p) => ['2026-11-12', net[p - 1]!, `REF ${name(p)}`] as const);
  return { desk: DESK_HEAD + desk.join(''), bank: statement(0, ...landed) };
}

/** balance = payouts + waiting − notPosted − differs + other, and nothing is unexplained. */
async function expectExplained(world: World): Promise<void> {
  const [proof] = await clearingProofs(world.books.reader);
  const { balance, payouts, waiting, notPosted, differs, other } = proof!;
  expect(balance).toBe(payouts.amount + waiting.amount - notPosted.amount - differs.amount + other);
  expect(other).toBe(0);
  expect(proof!.proves).toBe(notPosted.amount + differs.amount === 0);
  expect(balance).toBe((await world.balances())['1200'] ?? 0);
}

test('property: whatever is posted, confirmed, reversed or taken apart, the proof explains clearing to the cent', async () => {
  const receipt = fc.record({
    cents: fc.integer({ min: 100, max: 50_000 }),
    fee: fc.option(fc.integer({ min: 1, max: 99 })),
    payout: fc.integer({ min: 0, max: 2 }),
  });
  await fc.assert(
    fc.asyncProperty(
      fc.array(receipt, { minLength: 1, maxLength: 7 }),
      fc.tuple(fc.constantFrom(0, 0, 5, -3), fc.constantFrom(0, 0, 12)),
      fc.array(fc.nat(6), { maxLength: 4 }),
      async (receipts, off, left) => {
        const world = await World.open();
        try {
          const { desk, bank } = files(receipts, off);
          await world.bringIn(receiptsImporter, desk);
          await expectExplained(world);
          const ids = receipts.map((_, i) => i + 1).filter((id) => !left.includes(id));
          if (ids.length > 0) await world.must(postReceipts, { ids });
          await expectExplained(world);
          if (bank.split('\n').length > 2) await world.bringIn(statementImporter, bank);
          const payouts = await world.books.reader.selectFrom('payout').select(['id', 'net']).execute();
          for (const payout of payouts) {
            const line = await world.books.reader
              .selectFrom('statement_line')
              .select('id')
              .where('amount', '=', payout.net)
              .where('match_id', 'is', null)
              .executeTakeFirst();
            if (line)
              await world.must(confirmMatch, {
                line: line.id,
                parts: [{ kind: 'payout', id: payout.id }],
                restTo: null,
              });
          }
          await expectExplained(world);
          const { rows } = await sql<{
            id: number;
          }>`SELECT journal_id AS id FROM receipt WHERE journal_id IS NOT NULL`.execute(world.books.reader);
          if (rows[0]) await world.must(reverse, { from: rows[0].id, to: rows[0].id });
          await expectExplained(world);
          if (payouts.length > 0 && (await world.count('match')) > 0) await world.must(takeApart, { match: 1 });
          await expectExplained(world);
          await world.expectSound();
        } finally {
          await world.close();
        }
      },
    ),
    { numRuns: 20 },
  );
});

test('the balance day by day ends at the balance', async () => {
  const world = await World.open();
  const receipts = Array.from({ length: 12 }, (_, i) => ({ cents: 1000 + i, fee: 25, payout: 0 }));
  await world.bringIn(receiptsImporter, files(receipts, [0, 0]).desk);
  await world.must(postReceipts, { filter: {} });
  const clearing = await world.account('1200');
  const days = await dailyBalances(world.books.reader, clearing, plainDate('2026-11-03'));
  expect(days.map((d) => d.day)).toEqual([
    '2026-11-03',
    '2026-11-04',
    '2026-11-05',
    '2026-11-06',
    '2026-11-07',
    '2026-11-08',
  ]);
  expect(days.at(-1)!.balance).toBe((await world.balances())['1200']);
  await world.close();
});
