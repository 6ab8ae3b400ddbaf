import { sql } from 'kysely';
import { z } from 'zod';
import { askAgain } from '../matching/ask-again';
import { done, type Command, type Undo } from '../command';
import type { Reading, Writing } from '../store';

const was = z.object({ id: z.number().int(), payer: z.number().int().nullable() });
const alias = z.object({ name: z.string(), email: z.string() });

/** Who was whose before payers were told to be one, or two. */
const before = z.object({
  receipts: z.array(was.extend({ said: z.string().nullable() })).default([]),
  invoices: z.array(was.extend({ payer: z.number().int() })).default([]),
  channels: z.array(was).default([]),
  externals: z
    .array(z.object({ channel: z.number().int(), external: z.string(), payer: z.number().int() }))
    .default([]),
  /** Other names that were taken along. */
  keptAliases: z.array(alias.extend({ payer: z.number().int() })).default([]),
  /** Other names that were added. */
  aliases: z.array(alias).default([]),
  rules: z.array(z.object({ id: z.number().int(), conditions: z.string() })).default([]),
  /** The payer that was made for it. */
  made: z.number().int().nullable().default(null),
  /** The payer that was merged. */
  unmerge: z.number().int().nullable().default(null),
});
type Before = z.infer<typeof before>;

type WritingDb = Writing['db'];

/** A payer that is nobody else's by now. */
export async function payerOf(db: Reading, id: number) {
  return db
    .selectFrom('payer')
    .select(['id', 'name', 'email'])
    .where('id', '=', id)
    .where('merged_into', 'is', null)
    .executeTakeFirst();
}

/** Makes a payer known by another name too; gives what was added, which is nothing where it was known. */
export async function aliasFor(
  db: WritingDb,
  { name, email, payer }: { name: string; email: string; payer: number },
): Promise<{ name: string; email: string }[]> {
  const { numInsertedOrUpdatedRows: n = 0n } = await db
    .insertInto('payer_alias')
    .values({ name, email, payer_id: payer })
    .onConflict((c) => c.doNothing())
    .executeTakeFirst();
  return n > 0n ? [{ name, email }] : [];
}

export function giveBack(what: Partial<Before>, label: string): Undo {
  return { command: 'give-payers-back', input: what, label };
}

/** Puts everything back under the payers it was under. Receipts that came since, under the payer merged into, stay there. */
export const givePayersBack: Command<z.input<typeof before>, null> = {
  name: 'give-payers-back',
  input: before,
  async run(tx, input, context) {
    const { db } = tx;
    const { receipts, invoices, channels, externals, keptAliases, aliases, rules, made, unmerge } = before.parse(input);
    await sql`
      UPDATE receipt SET payer_id = t.payer, payer_said = t.said
      FROM (SELECT value ->> 'id' AS id, value ->> 'payer' AS payer, value ->> 'said' AS said
        FROM json_each(${JSON.stringify(receipts)})) AS t WHERE receipt.id = t.id
    `.execute(db);
    for (const [table, rows] of [
      ['invoice', invoices],
      ['channel', channels],
    ] as const) {
      await sql`
        UPDATE ${sql.table(table)} AS x SET payer_id = t.payer
        FROM (SELECT value ->> 'id' AS id, value ->> 'payer' AS payer FROM json_each(${JSON.stringify(rows)})) AS t
        WHERE x.id = t.id
      `.execute(db);
    }
    await sql`
      UPDATE payer_external AS x SET payer_id = t.payer
      FROM (SELECT value ->> 'channel' AS channel, value ->> 'external' AS external, value ->> 'payer' AS payer
        FROM json_each(${JSON.stringify(externals)})) AS t
      WHERE x.channel_id = t.channel AND x.external_id = t.external
    `.execute(db);
    for (const { name, email } of aliases) {
      await db.deleteFrom('payer_alias').where('name', '=', name).where('email', '=', email).execute();
    }
    for (const { name, email, payer } of keptAliases) {
      await db
        .updateTable('payer_alias')
        .set({ payer_id: payer })
        .where('name', '=', name)
        .where('email', '=', email)
        .execute();
    }
    for (const { id, conditions } of rules) {
      await db.updateTable('map_rule').set({ conditions }).where('id', '=', id).execute();
    }
    if (unmerge !== null) await db.updateTable('payer').set({ merged_into: null }).where('id', '=', unmerge).execute();
    if (made !== null) {
      // Kept where something else came to be under it meanwhile.
      await sql`
        DELETE FROM payer WHERE id = ${made} AND NOT EXISTS (SELECT 1 FROM receipt WHERE payer_id = ${made})
          AND NOT EXISTS (SELECT 1 FROM invoice WHERE payer_id = ${made})
          AND NOT EXISTS (SELECT 1 FROM payer_external WHERE payer_id = ${made})
          AND NOT EXISTS (SELECT 1 FROM payer_alias WHERE payer_id = ${made})
          AND NOT EXISTS (SELECT 1 FROM forgotten_name WHERE payer_id = ${made})
          AND NOT EXISTS (SELECT 1 FROM channel WHERE payer_id = ${made})
      `.execute(db);
    }
    await askAgain(tx, context);
    return done(null, 'Put payers back as they were');
  },
};
