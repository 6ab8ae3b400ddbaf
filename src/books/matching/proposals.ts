import { sql } from 'kysely';
import { workingCalendar } from '@/adapters/holidays';
import { proposePayouts, type PayoutHabit } from '@/core/matching';
import type { Minor } from '@/core/money';
import type { Reading, Writing } from '../store';

/** How far from its usual day a payout may land and still be called usual, and at all considered (working days). */
const SLACK = 1;
const FARTHEST = 15;

export function payoutHabit(channel: { readonly payout_days: number }): PayoutHabit {
  return { usualLag: channel.payout_days, slack: SLACK, farthest: FARTHEST };
}

/** What to work out again: everything that is free, or only what these amounts can touch. */
export type Touched = { readonly all: true } | { readonly amounts: readonly Minor[] };

/**
 * Works out again what explains the free statement lines and keeps it with them. A change touches the lines and
 * payouts of its own amounts, and those whose reference stands in such a line; nothing else can change.
 */
export async function refreshProposals(tx: Writing, touched: Touched): Promise<void> {
  const { db } = tx;
  const channel = await db.selectFrom('channel').selectAll().orderBy('id').executeTakeFirst();
  if (!channel) return;
  const { country } = await db.selectFrom('books').select('country').executeTakeFirstOrThrow();
  const amounts = 'amounts' in touched ? [...new Set(touched.amounts.map(Math.abs))] : null;
  const lines = await freeLines(db, amounts);
  const payouts = await freePayouts(db);
  const proposals = proposePayouts(lines, payouts, workingCalendar(country), payoutHabit(channel));

  const lineById = new Map(lines.map((line) => [line.id, line]));
  await sql`
    DELETE FROM proposal WHERE ${amounts === null ? sql`1` : sql`amount IN (SELECT value FROM json_each(${JSON.stringify(amounts)}))`}
  `.execute(db);
  const insert = tx.bulk('proposal', ['statement_line_id', 'certainty', 'book_date', 'amount', 'reasons']);
  const insertPayout = tx.bulk('proposal_payout', ['statement_line_id', 'rank', 'payout_id', 'laid', 'reasons']);
  for (const proposal of proposals) {
    const line = lineById.get(proposal.line)!;
    insert.add(line.id, proposal.certainty, line.date, line.amount, JSON.stringify(proposal.reasons));
  }
  insert.flush();
  for (const { line, payout, others } of proposals) {
    if (payout !== null) insertPayout.add(line, 0, payout, 1, '[]');
    for (const [rank, other] of others.entries()) {
      insertPayout.add(line, rank + 1, other.payout, 0, JSON.stringify(other.reasons));
    }
  }
  insertPayout.flush();
}

async function freeLines(db: Reading, amounts: readonly number[] | null) {
  let query = db
    .selectFrom('statement_line')
    .select(['id', 'book_date as date', 'amount', 'text', 'reference'])
    .where('match_id', 'is', null);
  if (amounts)
    query = query.where('amount', 'in', sql<Minor>`(SELECT value FROM json_each(${JSON.stringify(amounts)}))`);
  return query.execute();
}

/** All of them: a line may name a payout of another amount, and what is in transit is never much. */
async function freePayouts(db: Reading) {
  return db
    .selectFrom('payout')
    .select(['id', 'external_id as reference', 'book_date as left', 'expected_on as expected', 'net'])
    .where('match_id', 'is', null)
    .execute();
}
