import { sql } from 'kysely';
import type { Minor } from '@/core/money';
import type { PlannedJournal } from '../ledger/journal-writer';
import { loadJournals } from '../ledger/reversals';
import { reversalDate } from '@/core/ledger';
import { repeatEntries } from '../settling/repeat';
import type { Writing } from '../store';

/** How a receipt stood in the ledger before it was posted otherwise. */
export interface PostedBefore {
  readonly receipt: number;
  readonly journal: number;
  readonly notHeld: Minor;
  readonly carried: Minor | null;
}

/** What of a receipt its entry was made of: where one of these is another now, the entry is no longer that of the receipt. */
const MADE_OF = sql`json_array(r.gross, r.fee, r.book_date, r.payer_id, r.channel_id, r.document)`;

/** How a receipt stood before it was reversed, with what its entry was made of. */
export interface ReversedBefore extends PostedBefore {
  readonly madeOf: string;
}

/** So many are posted as they were when a reversal is taken back; more of them go by the map as it stands. */
const KEPT = 5_000;

/** How the receipts of these entries stand, for taking their reversal back; nothing where they are too many to keep. */
export async function standingBefore({ db }: Writing, journals: readonly number[]): Promise<ReversedBefore[]> {
  if (journals.length > KEPT) return [];
  const { rows } = await sql<ReversedBefore>`
    SELECT r.id AS receipt, j.id AS journal, r.not_held AS notHeld, r.carried, ${MADE_OF} AS madeOf
    FROM json_each(${JSON.stringify(journals)}) w JOIN journal j ON j.id = w.value AND j.source_kind = 'receipt'
    JOIN receipt r ON r.id = j.source_id AND r.journal_id = j.id ORDER BY r.id
  `.execute(db);
  return rows;
}

/**
 * Of receipts that were reversed, those that can be posted as they were: still not posted, made of the same, and the invoices they
 * paid have room for it.
 */
export async function asTheyWere({ db }: Writing, list: readonly ReversedBefore[]): Promise<ReversedBefore[]> {
  const { rows } = await sql<{ receipt: number }>`
    WITH wanted AS (SELECT value ->> 'receipt' AS receipt, value ->> 'journal' AS journal, value ->> 'madeOf' AS made_of
      FROM json_each(${JSON.stringify(list)})),
    full AS (SELECT e.invoice_id FROM wanted w JOIN invoice_entry e ON e.journal_id = w.journal AND e.kind NOT IN ('issued', 'corrected')
      JOIN invoice i ON i.id = e.invoice_id GROUP BY e.invoice_id
      HAVING min(i.journal_id) IS NULL OR min(i.gross - i.paid) < -sum(e.amount))
    SELECT w.receipt FROM wanted w JOIN receipt r ON r.id = w.receipt
    WHERE r.journal_id IS NULL AND r.aside IS NULL AND ${MADE_OF} = w.made_of
      AND NOT EXISTS (SELECT 1 FROM invoice_entry e JOIN full f ON f.invoice_id = e.invoice_id WHERE e.journal_id = w.journal)
  `.execute(db);
  const fit = new Set(rows.map(({ receipt }) => receipt));
  return list.filter(({ receipt }) => fit.has(receipt));
}

/** How these receipts stand in the ledger now; those that are not posted are left out. */
export async function postedNow({ db }: Writing, receipts: readonly number[]): Promise<PostedBefore[]> {
  const { rows } = await sql<PostedBefore>`
    SELECT id AS receipt, journal_id AS journal, not_held AS notHeld, carried FROM receipt
    WHERE id IN (SELECT value FROM json_each(${JSON.stringify(receipts)})) AND journal_id IS NOT NULL ORDER BY id
  `.execute(db);
  return rows;
}

/** What entries are written into: a writer of journals, or a report over one. */
interface Into {
  write(journal: PlannedJournal, receipt: number): number;
  flush(): void;
}

const BATCH = 2_000;

/** Writes the entries of receipts as they were once posted, line by line, whatever the map says now. */
export async function postAsBefore(tx: Writing, writer: Into, list: readonly PostedBefore[]): Promise<void> {
  for (let at = 0; at < list.length; at += BATCH) await postSome(tx, writer, list.slice(at, at + BATCH));
}

async function postSome(tx: Writing, writer: Into, list: readonly PostedBefore[]): Promise<void> {
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
  // What was in a closed month was reversed after it, and is put back after it.
  const { closed_through } = await db.selectFrom('books').select('closed_through').executeTakeFirstOrThrow();
  const tied = list.map(({ receipt, journal, notHeld, carried }) => {
    const { date, memo, lines } = journals.get(journal)!;
    const source = { kind: 'receipt', id: receipt, revision: revisions.get(receipt)! + 1 } as const;
    const day = reversalDate(date, closed_through);
    return [receipt, writer.write({ date: day, source, memo, lines }, receipt), notHeld, carried, journal] as const;
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
