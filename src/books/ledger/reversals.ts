import { sql } from 'kysely';
import { reversal, reversalDate, type AccountId, type Because, type Dimensions, type EntryLine } from '@/core/ledger';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { Cancelled, NO_PROGRESS, type Progress } from '../command';
import { repeatEntries } from '../settling/repeat';
import type { Writing } from '../store';
import type { JournalWriter } from './journal-writer';

const BATCH = 2_000;

interface JournalWithLines {
  readonly id: number;
  readonly date: PlainDate;
  readonly memo: string;
  readonly lines: EntryLine[];
}

/** Journals with their lines as their recipes gave them, in the order of their ids. */
export async function loadJournals({ db }: Writing, ids: readonly number[]): Promise<JournalWithLines[]> {
  const rows = await db
    .selectFrom('journal')
    .innerJoin('journal_line', 'journal_line.journal_id', 'journal.id')
    .innerJoin('books', (join) => join.on('books.id', '=', 1))
    .select(['journal.id', 'journal.book_date as date', 'journal.memo', 'account_id', 'because'])
    .select(['journal_line.amount as own', 'journal_line.currency', 'base_amount as amount', 'books.currency as base'])
    .select(
      sql<string>`(SELECT json_group_array(json_array(d.dimension_id, d.value_id)) FROM journal_line_dimension d
        WHERE d.journal_id = journal_line.journal_id AND d.line_no = journal_line.line_no)`.as('dimensions'),
    )
    .where('journal.id', 'in', sql<number>`(SELECT value FROM json_each(${JSON.stringify(ids)}))`)
    .orderBy('journal.id')
    .orderBy('line_no')
    .execute();
  const journals: JournalWithLines[] = [];
  for (const { id, date, memo, account_id, amount, own, currency, base, because, dimensions } of rows) {
    if (journals.at(-1)?.id !== id) journals.push({ id, date, memo, lines: [] });
    journals.at(-1)!.lines.push({
      account: account_id as AccountId,
      amount: amount as Minor,
      because: JSON.parse(because) as Because,
      ...(dimensions !== '[]' && { dimensions: JSON.parse(dimensions) as Dimensions }),
      ...(currency !== base && { foreign: { currency, amount: own } }),
    });
  }
  return journals;
}

/**
 * Writes the opposite of each posted journal (recipe 25), set-based, and gives back to each invoice and credit what
 * the journals had moved of it. The caller clears the references that its documents hold to them. The ids of the reversals follow
 * each other; the first and the last are given.
 */
export async function writeReversals(
  tx: Writing,
  writer: JournalWriter,
  ids: readonly number[],
  progress: Progress = NO_PROGRESS,
): Promise<{ readonly from: number; readonly to: number }> {
  const { db } = tx;
  const { closed_through } = await db.selectFrom('books').select('closed_through').executeTakeFirstOrThrow();
  let from = 0;
  let to = 0;
  for (let at = 0; at < ids.length; at += BATCH) {
    progress.report('Reversing', at, ids.length);
    if (progress.cancelled) throw new Cancelled();
    for (const journal of await loadJournals(tx, ids.slice(at, at + BATCH))) {
      to = writer.write({
        date: reversalDate(journal.date, closed_through),
        source: { kind: 'reversal', id: journal.id, revision: 1 },
        memo: `Reversal: ${journal.memo}`,
        lines: reversal(journal, journal.id).lines,
        reverses: journal.id,
      });
      from ||= to;
    }
  }
  writer.flush();
  const reversed = sql`(SELECT id AS journal, reverses_id AS was FROM journal WHERE id BETWEEN ${from} AND ${to}) AS t`;
  await repeatEntries(db, reversed, -1);
  return { from, to };
}
