import { sql } from 'kysely';
import type { Minor } from '@/core/money';
import type { JournalWriter } from '../ledger/journal-writer';
import { loadJournals } from '../ledger/reversals';
import { repeatEntries } from '../settling/repeat';
import type { Writing } from '../store';

/** How a receipt stood in the ledger before it was posted otherwise. */
export interface PostedBefore {
  readonly receipt: number;
  readonly journal: number;
  readonly notHeld: Minor;
  readonly carried: Minor | null;
}

/** How these receipts stand in the ledger now; those that are not posted are left out. */
export async function postedNow({ db }: Writing, receipts: readonly number[]): Promise<PostedBefore[]> {
  const { rows } = await sql<PostedBefore>`
    SELECT id AS receipt, journal_id AS journal, not_held AS notHeld, carried FROM receipt
    WHERE id IN (SELECT value FROM json_each(${JSON.stringify(receipts)})) AND journal_id IS NOT NULL ORDER BY id
  `.execute(db);
  return rows;
}

/** Writes the entries of receipts as they were once posted, line by line, whatever the map says now. */
export async function postAsBefore(tx: Writing, writer: JournalWriter, list: readonly PostedBefore[]): Promise<void> {
  const { db } = tx;
  const journals = new Map(
    (
      await loadJournals(
        tx,
        list.map(({ journal }) => journal),
      )
    ).map((one) => [one.id, one]),
  );
  const { rows } = await sql<{ id: number; revision: number }>`
    SELECT id, revision FROM receipt WHERE id IN (SELECT value FROM json_each(${JSON.stringify(list.map((one) => one.receipt))}))
  `.execute(db);
  const revisions = new Map(rows.map((row) => [row.id, row.revision]));
  const tied = list.map(({ receipt, journal, notHeld, carried }) => {
    const { date, memo, lines } = journals.get(journal)!;
    const source = { kind: 'receipt', id: receipt, revision: revisions.get(receipt)! + 1 } as const;
    return [receipt, writer.write({ date, source, memo, lines }), notHeld, carried, journal] as const;
  });
  writer.flush();
  const pairs = sql`(SELECT value ->> 0 AS receipt, value ->> 1 AS journal, value ->> 2 AS not_held, value ->> 3 AS carried,
    value ->> 4 AS was FROM json_each(${JSON.stringify(tied)})) AS t`;
  await sql`
    UPDATE receipt SET journal_id = t.journal, revision = revision + 1, not_held = t.not_held, carried = t.carried
    FROM ${pairs} WHERE receipt.id = t.receipt
  `.execute(db);
  await repeatEntries(db, pairs);
}
