import { plural } from '@/core/words';
import { sql } from 'kysely';
import { z } from 'zod';
import type { Landing } from '@/core/map';
import { asideAgain } from '../command/aside-again';
import { done, refuse, type Command } from '../command';
import { landingInput, landingRefusal } from '../map/landing-input';
import type { Reading } from '../store';
import { filterReceipts, receiptFilter } from './filter';

/** Receipts that are set aside in one go: each is named in what takes it back. */
const MOST = 50_000;
const ids = z.array(z.number().int()).min(1).max(MOST);
const wanted = z.union([z.object({ ids }), z.object({ filter: receiptFilter })]);

/** The ids named, or those of all that a filter shows and that are neither posted nor set aside. */
async function idsOf(db: Reading, what: z.infer<typeof wanted>): Promise<number[]> {
  if ('ids' in what) return what.ids;
  const rows = await filterReceipts(
    db
      .selectFrom('receipt')
      .leftJoin('payout', 'payout.id', 'receipt.payout_id')
      .leftJoin('payer', 'payer.id', 'receipt.payer_id')
      .where('receipt.journal_id', 'is', null)
      .where('receipt.aside', 'is', null),
    what.filter,
  )
    .select('receipt.id')
    .limit(MOST + 1)
    .execute();
  return rows.map(({ id }) => id);
}

const counted = (n: number) => plural(n, 'receipt');

async function posted(db: Reading, list: readonly number[]) {
  const { rows } = await sql<{ name: string }>`
    SELECT external_id AS name FROM receipt
    WHERE id IN (SELECT value FROM json_each(${JSON.stringify(list)})) AND journal_id IS NOT NULL LIMIT 1
  `.execute(db);
  return rows[0] ?? null;
}

/** Says of receipts that they are not wanted in the books, and why; they stay to be seen and can be taken back. */
export const setAside: Command<z.infer<typeof wanted> & { reason: string }, { count: number }> = {
  name: 'set-aside',
  input: wanted.and(z.object({ reason: z.string().trim().min(1).max(200) })),
  async run({ db }, { reason, ...what }) {
    const list = await idsOf(db, what);
    if (list.length === 0) return done({ count: 0 }, null);
    if (list.length > MOST) {
      return refuse({ code: 'invalid-input', field: 'filter', expected: `at most ${MOST} receipts at once` });
    }
    const first = await posted(db, list);
    if (first) return refuse({ code: 'posted-already', what: 'receipt', name: first.name });
    const { rows } = await sql<{ id: number }>`
      UPDATE receipt SET aside = ${reason}
      WHERE id IN (SELECT value FROM json_each(${JSON.stringify(list)})) AND aside IS NULL RETURNING id
    `.execute(db);
    const count = rows.length;
    if (count === 0) return done({ count }, null);
    return done({ count }, `Set ${counted(count)} aside: ${reason}`, {
      command: 'take-back-aside',
      input: { ids: rows.map(({ id }) => id) },
      label: `take ${counted(count)} back`,
    });
  },
};

/** Takes receipts back that were set aside. */
export const takeBackAside: Command<{ ids: number[] }, { count: number }> = {
  name: 'take-back-aside',
  input: z.object({ ids }),
  async run({ db }, { ids: list }) {
    const these = sql`(SELECT value FROM json_each(${JSON.stringify(list)}))`;
    const { rows: before } = await sql<{ id: number; reason: string }>`
      SELECT id, aside AS reason FROM receipt WHERE id IN ${these} AND aside IS NOT NULL ORDER BY id
    `.execute(db);
    const count = before.length;
    if (count === 0) return done({ count }, null);
    await sql`UPDATE receipt SET aside = NULL WHERE id IN ${these}`.execute(db);
    const undo = asideAgain('set-aside', before, `set ${counted(count)} aside again`);
    return done({ count }, `Took ${counted(count)} back`, undo);
  },
};

/** Sets where one receipt lands, before all rules; what is left out is decided as for any other. */
export const setLanding: Command<{ receipt: number; landing: Landing }, null> = {
  name: 'set-landing',
  input: z.object({ receipt: z.number().int(), landing: landingInput }),
  async run({ db }, { receipt, landing }) {
    const row = await db
      .selectFrom('receipt')
      .select(['external_id', 'journal_id', 'landing'])
      .where('id', '=', receipt)
      .executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'receipt', id: String(receipt) });
    if (row.journal_id !== null) return refuse({ code: 'posted-already', what: 'receipt', name: row.external_id });
    const refused = await landingRefusal(db, landing);
    if (refused) return refuse(refused);
    const text = Object.keys(landing).length === 0 ? null : JSON.stringify(landing);
    if (text === row.landing) return done(null, null);
    await db.updateTable('receipt').set({ landing: text }).where('id', '=', receipt).execute();
    return done(null, `Set where receipt ${row.external_id} lands`, {
      command: 'set-landing',
      input: { receipt, landing: row.landing === null ? {} : JSON.parse(row.landing) },
      label: `set receipt ${row.external_id} back`,
    });
  },
};
