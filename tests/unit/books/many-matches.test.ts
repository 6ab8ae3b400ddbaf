import { confirmProven } from '@/books/matching/confirm';
import { takeApart } from '@/books/matching/take-apart';
import { clearingProofs } from '@/books/proof/clearing';
import { receiptsImporter } from '@/books/receipts/import';
import { postReceipts } from '@/books/receipts/post';
import { statementImporter } from '@/books/statements/import';
import { provenLines } from '@/books/statements/list';
import { DESK_HEAD, statement, World } from './world';

const PAYOUTS = 1_500;

test('hundreds of proven lines are confirmed in one change, each tied to its payout, and one is taken apart again', async () => {
  const world = await World.open();
  try {
    const day = (n: number) => `2026-10-${String((n % 28) + 1).padStart(2, '0')}`;
    const money = (n: number) => `${100 + n}.00`;
    const rows = Array.from({ length: PAYOUTS }, (_, n) => [
      `R-${n},receipt,${day(n)}T08:00:00Z,EUR,${money(n)},0.00,${money(n)},,,,parts,,P-${1000 + n},\n`,
      `P-${1000 + n},payout,${day(n)}T20:00:00Z,EUR,-${money(n)},,-${money(n)},,,,,,,\n`,
    ]).flat();
    await world.bringIn(receiptsImporter, DESK_HEAD + rows.join(''));
    await world.must(postReceipts, { filter: {} });
    const lines = Array.from({ length: PAYOUTS }, (_, n) => [n, (100 + n) * 100] as const);
    const inOrder = [...lines].sort(([a], [b]) => day(a).localeCompare(day(b)));
    await world.bringIn(
      statementImporter,
      statement(0, ...inOrder.map(([n, cents]) => [day(n), cents, `SETTLEMENT P-${1000 + n} X`] as const)),
    );
    const proven = await provenLines(world.books.reader);
    expect(proven).toHaveLength(PAYOUTS);
    await world.must(confirmProven, { lines: proven.map(({ id }) => id) });
    expect(await world.count('match')).toBe(PAYOUTS);
    expect((await world.balances())['1200']).toBeUndefined();
    const [proof] = await clearingProofs(world.books.reader);
    expect(proof).toMatchObject({ balance: 0, proves: true });
    await world.expectSound();
    const tied = await world.books.reader
      .selectFrom('payout')
      .innerJoin('match_line', 'match_line.match_id', 'payout.match_id')
      .innerJoin('statement_line', 'statement_line.id', 'match_line.statement_line_id')
      .select(['payout.external_id as name', 'text', 'net', 'amount'])
      .execute();
    expect(tied).toHaveLength(PAYOUTS);
    expect(tied.every(({ name, text, net, amount }) => text.includes(` ${name} `) && net === amount)).toBe(true);
    await world.must(takeApart, { match: 100 });
    expect(await provenLines(world.books.reader)).toHaveLength(1);
    await world.expectSound();
  } finally {
    await world.close();
  }
});
