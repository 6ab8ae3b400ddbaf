import { sql } from 'kysely';
import { z } from 'zod';
import { formatDay, type PlainDate } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { done, refuse, type Command } from '../command';
import { balanceMoves, type BalanceMove } from '../ledger/balances';
import { JournalWriter } from '../ledger/journal-writer';
import { writeReversals } from '../ledger/reversals';
import type { Reading } from '../store';
import { usedCredit } from './kept-over';
import { askAgain } from './ask-again';
import { channelsTold, learnFeeSteps } from './learn-fee-steps';
import { refreshProposals } from './proposals';

const oneOrMore = z.union([
  z.object({ match: z.number().int() }),
  z.object({ matches: z.array(z.number().int()).min(1).max(100_000) }),
]);

/** What taking a match apart does. */
export interface TakenApart {
  readonly matches: number;
  /** Lines that have to be explained again, and what they come to (minor units). */
  readonly amount: Minor;
  /** Payouts, receipts, invoices and further lines that are free again. */
  readonly freed: {
    readonly payout: number;
    readonly receipt: number;
    readonly invoice: number;
    readonly line: number;
  };
  readonly moves: readonly BalanceMove[];
}

const counted = (list: readonly number[]) => sql`(SELECT value FROM json_each(${JSON.stringify(list)}))`;

/**
 * The matches that stand for these now: one that was taken apart and confirmed again as it was stands under another number. A match
 * that nothing stands for is itself.
 */
async function standingFor(db: Reading, ids: readonly number[]): Promise<number[]> {
  const same = (one: string, other: string) =>
    sql.raw(`NOT EXISTS (SELECT kind, ref_id, gross FROM match_part WHERE match_id = ${one}
      EXCEPT SELECT kind, ref_id, gross FROM match_part WHERE match_id = ${other})`);
  const { rows } = await sql<{ id: number }>`
    SELECT coalesce((
      SELECT n.id FROM match_line a JOIN match_line b ON b.statement_line_id = a.statement_line_id AND b.live = 1 AND b.place = 1
      JOIN match n ON n.id = b.match_id AND n.rest = m.rest AND n.rest_account_id IS m.rest_account_id
      WHERE a.match_id = m.id AND a.place = 1 AND m.undone_at IS NOT NULL AND ${same('m.id', 'n.id')} AND ${same('n.id', 'm.id')}
    ), wanted.value) AS id
    FROM json_each(${JSON.stringify(ids)}) AS wanted LEFT JOIN match m ON m.id = wanted.value ORDER BY wanted.key
  `.execute(db);
  return rows.map(({ id }) => id);
}

/** Takes confirmed matches apart: opposite entries, and lines and parts free again. The dry run tells the consequence. */
export const takeApart: Command<z.infer<typeof oneOrMore>, TakenApart> = {
  name: 'take-apart',
  input: oneOrMore,
  async run(tx, input, context) {
    const { db } = tx;
    const ids = await standingFor(db, 'match' in input ? [input.match] : input.matches);
    const wanted = counted(ids);
    const { rows: matches } = await sql<{ id: number; journal_id: number; undone_at: string | null }>`
      SELECT id, journal_id, undone_at FROM match WHERE id IN ${wanted} ORDER BY id
    `.execute(db);
    const there = new Set(matches.map(({ id }) => id));
    const missing = ids.find((id) => !there.has(id));
    if (missing !== undefined) return refuse({ code: 'not-found', what: 'match', id: String(missing) });
    const [undone] = matches.filter(({ undone_at: at }) => at !== null);
    if (undone) return refuse({ code: 'match-undone', match: undone.id });

    const used = await usedCredit(db, ids);
    if (used !== null) return refuse({ code: 'credit-used', name: used });

    const { rows: lines } = await sql<{ id: number; book_date: PlainDate; amount: Minor }>`
      SELECT id, book_date, amount FROM statement_line WHERE match_id IN ${wanted}
    `.execute(db);
    const { rows: parts } = await sql<{ kind: keyof TakenApart['freed']; n: number }>`
      SELECT kind, count(*) AS n FROM match_part WHERE match_id IN ${wanted} AND live = 1 AND kind <> 'account' GROUP BY kind
    `.execute(db);
    const { rows: nets } = await sql<{ net: Minor }>`SELECT net FROM payout WHERE match_id IN ${wanted}`.execute(db);

    const { rows: otherDays } = await sql<{ journal: number }>`
      SELECT journal_id AS journal FROM match_line WHERE match_id IN ${wanted} AND journal_id IS NOT NULL
    `.execute(db);
    const writer = await JournalWriter.open(tx, context);
    await writeReversals(tx, writer, [
      ...matches.map((match) => match.journal_id),
      ...otherDays.map(({ journal }) => journal),
    ]);
    const moves = await balanceMoves(db, await writer.finish());
    await sql`UPDATE match SET undone_at = ${context.now.toISOString()} WHERE id IN ${wanted}`.execute(db);
    await sql`UPDATE match_line SET live = 0 WHERE match_id IN ${wanted}`.execute(db);
    await sql`UPDATE match_part SET live = 0 WHERE match_id IN ${wanted}`.execute(db);
    for (const table of ['payout', 'receipt', 'statement_line'] as const) {
      await sql`UPDATE ${sql.table(table)} SET match_id = NULL WHERE match_id IN ${wanted}`.execute(db);
    }
    const amounts = [...lines.map((line) => line.amount), ...nets.map((payout) => payout.net)];
    await refreshProposals(tx, { amounts, days: lines.map((line) => line.book_date) });
    if (await learnFeeSteps(tx, await channelsTold(db, ids))) await askAgain(tx, context);

    const amount = lines.reduce((total, line) => total + line.amount, 0) as Minor;
    const freed = { payout: 0, receipt: 0, invoice: 0, line: 0 };
    for (const { kind, n } of parts) freed[kind] = n;
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    const what =
      matches.length === 1
        ? `${formatAmount(amount, currency)} of ${formatDay(lines[0]!.book_date)}`
        : `${lines.length} matches, ${formatAmount(amount, currency)}`;
    return done({ matches: ids.length, amount, freed, moves }, `Took apart ${what}`, {
      command: 'confirm-again',
      input: { matches: ids },
      label: `confirm ${matches.length === 1 ? 'it' : 'them'} again`,
    });
  },
};
