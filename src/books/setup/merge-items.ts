import { z } from 'zod';
import { done, refuse, type Command, type Outcome } from '../command';
import { putInRules } from '../map/put-in-rules';
import type { Reading } from '../store';

const id = z.number().int().positive();

const itemOf = (db: Reading, item: number) =>
  db
    .selectFrom('item')
    .select(['id', 'code', 'archived', 'merged_into as into'])
    .where('id', '=', item)
    .executeTakeFirst();

/**
 * Puts one item in the place of another: what names the old one and is not posted yet, in the lists, in drafts, plans and in
 * files to come, lands where the new one does. What was posted under the old one stays under its name.
 */
export const mergeItems: Command<{ from: number; into: number }, null> = {
  name: 'merge-items',
  input: z.object({ from: id, into: id }),
  async run(tx, { from, into }): Promise<Outcome<null>> {
    const { db } = tx;
    const [one, other] = [await itemOf(db, from), await itemOf(db, into)];
    if (!one) return refuse({ code: 'not-found', what: 'item', id: String(from) });
    if (!other) return refuse({ code: 'not-found', what: 'item', id: String(into) });
    if (from === into) return refuse({ code: 'invalid-input', field: 'into', expected: 'another item' });
    for (const item of [one, other]) {
      if (item.into === null) continue;
      const { code } = (await itemOf(db, item.into))!;
      return refuse({ code: 'merged', what: 'item', name: item.code, into: code });
    }
    if (other.archived === 1) return refuse({ code: 'archived', what: 'item', name: other.code });
    const through = (await db.selectFrom('item').select('id').where('merged_into', '=', from).execute()).map(
      (row) => row.id,
    );
    await db
      .updateTable('item')
      .set({ merged_into: into })
      .where('id', 'in', [from, ...through])
      .execute();
    await db.updateTable('item').set({ archived: 1 }).where('id', '=', from).execute();
    const rules = await putInRules(db, 'items', from, into);
    return done(null, `Merged item ${one.code} into ${other.code}`, {
      command: 'part-items',
      input: { item: from, archived: one.archived, through, rules },
      label: `part ${one.code} and ${other.code} again`,
    });
  },
};

/** Parts an item from the one it was merged into; with it those that had come to it before. */
export const partItems: Command<
  { item: number; archived: 0 | 1; through: number[]; rules: { id: number; conditions: string }[] },
  null
> = {
  name: 'part-items',
  input: z.object({
    item: id,
    archived: z.union([z.literal(0), z.literal(1)]).default(0),
    through: z.array(id).default([]),
    rules: z.array(z.object({ id, conditions: z.string() })).default([]),
  }),
  async run({ db }, { item, archived, through, rules }) {
    const row = await itemOf(db, item);
    if (!row || row.into === null) return refuse({ code: 'not-found', what: 'merged item', id: String(item) });
    const { into } = row;
    await db.updateTable('item').set({ merged_into: null, archived }).where('id', '=', item).execute();
    await db
      .updateTable('item')
      .set({ merged_into: item })
      .where('id', 'in', [...through, -1])
      .execute();
    for (const rule of rules) {
      await db.updateTable('map_rule').set({ conditions: rule.conditions }).where('id', '=', rule.id).execute();
    }
    return done(null, `Parted item ${row.code} from ${(await itemOf(db, into))!.code}`, {
      command: 'merge-items',
      input: { from: item, into },
      label: 'merge them again',
    });
  },
};
