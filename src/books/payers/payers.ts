import { sql } from 'kysely';
import { z } from 'zod';
import { nameWords, payerReasonWords, payersInNote } from '@/core/payers';
import { askAgain } from '../matching/ask-again';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';

export interface ProposedPayer {
  readonly id: number;
  readonly name: string;
  readonly because: string;
}

const CANDIDATES = 200;
const PROPOSED = 6;

/** Who may have paid a receipt that names nobody, from its note, each with the reason. Nothing is chosen. */
export async function proposePayers(db: Reading, receipt: number): Promise<ProposedPayer[]> {
  const row = await db.selectFrom('receipt').select(['note', 'payer_id']).where('id', '=', receipt).executeTakeFirst();
  if (!row || row.payer_id !== null) return [];
  const looked = nameWords(row.note).filter((word) => word.length > 2);
  const text = looked.length > 0 ? looked : row.note.split(/\s+/).filter((word) => word.length > 3);
  if (text.length === 0) return [];
  const { rows } = await sql<{ id: number; name: string }>`
    SELECT DISTINCT p.id, p.name FROM json_each(${JSON.stringify(text)}) AS w
    JOIN payer p ON (p.name LIKE w.value || '%' OR p.name LIKE '% ' || w.value || '%') AND p.merged_into IS NULL
    LIMIT ${CANDIDATES}
  `.execute(db);
  return payersInNote(row.note, rows)
    .slice(0, PROPOSED)
    .map(({ payer, name, reason }) => ({ id: payer, name, because: payerReasonWords(reason) }));
}

/** Says who paid a receipt: a payer that is there, one to be made, or nobody. The ledger is not touched by it. */
export const setPayer: Command<
  {
    receipt: number;
    payer: number | null;
    make?: { name: string; email: string; evenSo?: boolean | undefined } | undefined;
  },
  { payer: number | null }
> = {
  name: 'set-payer',
  input: z.object({
    receipt: z.number().int(),
    payer: z.number().int().nullable(),
    make: z
      .object({
        name: z.string().trim().min(1).max(120),
        email: z.string().trim().max(200),
        /** Another payer has this email, and they are two all the same. */
        evenSo: z.boolean().optional(),
      })
      .optional(),
  }),
  async run(tx, { receipt, payer, make }, context) {
    const { db } = tx;
    const row = await db
      .selectFrom('receipt')
      .select(['external_id', 'payer_id'])
      .where('id', '=', receipt)
      .executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'receipt', id: String(receipt) });
    let to = payer;
    if (make) {
      const email = make.email.toLowerCase();
      const twice =
        email === ''
          ? undefined
          : await db
              .selectFrom('payer')
              .select('name')
              .where('email', '=', email)
              .where('merged_into', 'is', null)
              .executeTakeFirst();
      if (twice && !make.evenSo) return refuse({ code: 'email-taken', email, payer: twice.name });
      const made = await db
        .insertInto('payer')
        .values({ name: make.name, email })
        .returning('id')
        .executeTakeFirstOrThrow();
      to = made.id;
    } else if (to !== null) {
      const there = await db.selectFrom('payer').select('id').where('id', '=', to).executeTakeFirst();
      if (!there) return refuse({ code: 'not-found', what: 'payer', id: String(to) });
    }
    if (to === row.payer_id) return done({ payer: to }, null);
    await db.updateTable('receipt').set({ payer_id: to, payer_said: null }).where('id', '=', receipt).execute();
    await askAgain(tx, context);
    return done({ payer: to }, `Set who paid receipt ${row.external_id}`, {
      command: 'set-payer',
      input: { receipt, payer: row.payer_id },
      label: `set receipt ${row.external_id} back`,
    });
  },
};
