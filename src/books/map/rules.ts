import { sql } from 'kysely';
import { z } from 'zod';
import { done, refuse, type Command } from '../command';
import type { Reading, Writing } from '../store';
import { conditionsInput, landingInput, landingRefusal } from './landing-input';

const ruleInput = z.object({
  /** Null makes a new rule. */
  id: z.number().int().nullable(),
  name: z.string().trim().min(1).max(80),
  active: z.boolean(),
  conditions: conditionsInput,
  landing: landingInput,
  /** Where a new rule stands among the others, from 1; at the end where it is left out. */
  position: z.number().int().min(1).optional(),
});
export type RuleInput = z.infer<typeof ruleInput>;

async function ruleRow(db: Reading, id: number) {
  return db.selectFrom('map_rule').selectAll().where('id', '=', id).executeTakeFirst();
}

/** Puts the rules into this order; positions are 1, 2, 3 … without a gap. */
async function arrange(db: Reading, ids: readonly number[]): Promise<void> {
  await sql`UPDATE map_rule SET position = -position`.execute(db);
  await sql`
    UPDATE map_rule SET position = t.key + 1 FROM json_each(${JSON.stringify(ids)}) AS t WHERE map_rule.id = t.value
  `.execute(db);
}

async function order(db: Reading): Promise<number[]> {
  const rows = await db.selectFrom('map_rule').select('id').orderBy('position').execute();
  return rows.map((row) => row.id);
}

async function place(tx: Writing, id: number, position: number): Promise<void> {
  const others = (await order(tx.db)).filter((other) => other !== id);
  others.splice(position - 1, 0, id);
  await arrange(tx.db, others);
}

/** Makes a map rule, or changes one. Nothing that is posted changes by it. */
export const saveMapRule: Command<RuleInput, { rule: number }> = {
  name: 'save-map-rule',
  input: ruleInput,
  async run(tx, input, { now, actor }) {
    const { db } = tx;
    const refused = await landingRefusal(db, input.landing);
    if (refused) return refuse(refused);
    const values = {
      name: input.name,
      active: input.active ? (1 as const) : (0 as const),
      conditions: JSON.stringify(input.conditions),
      landing: JSON.stringify(input.landing),
      changed_at: now.toISOString(),
      actor: actor.name,
    };
    if (input.id === null) {
      const last = (await order(db)).length;
      const { id } = await db
        .insertInto('map_rule')
        .values({ ...values, position: last + 1 })
        .returning('id')
        .executeTakeFirstOrThrow();
      if (input.position !== undefined && input.position <= last) await place(tx, id, input.position);
      const undo = { command: 'remove-map-rule', input: { id }, label: `remove rule ${input.name}` };
      return done({ rule: id }, `Made map rule ${input.name}`, undo);
    }
    const before = await ruleRow(db, input.id);
    if (!before) return refuse({ code: 'not-found', what: 'map rule', id: String(input.id) });
    await db.updateTable('map_rule').set(values).where('id', '=', input.id).execute();
    return done({ rule: input.id }, `Changed map rule ${input.name}`, {
      command: 'save-map-rule',
      input: {
        id: input.id,
        name: before.name,
        active: before.active === 1,
        conditions: JSON.parse(before.conditions),
        landing: JSON.parse(before.landing),
      },
      label: `change rule ${input.name} back`,
    });
  },
};

/** Takes a rule out of the map. What it decided stays as it is posted. */
export const removeMapRule: Command<{ id: number }, null> = {
  name: 'remove-map-rule',
  input: z.object({ id: z.number().int() }),
  async run(tx, { id }) {
    const row = await ruleRow(tx.db, id);
    if (!row) return refuse({ code: 'not-found', what: 'map rule', id: String(id) });
    await tx.db.deleteFrom('map_rule').where('id', '=', id).execute();
    await arrange(tx.db, await order(tx.db));
    return done(null, `Removed map rule ${row.name}`, {
      command: 'save-map-rule',
      input: {
        id: null,
        name: row.name,
        active: row.active === 1,
        conditions: JSON.parse(row.conditions),
        landing: JSON.parse(row.landing),
        position: row.position,
      },
      label: `make rule ${row.name} again`,
    });
  },
};

/** Moves a rule among the others: the first that applies decides. */
export const moveMapRule: Command<{ id: number; position: number }, null> = {
  name: 'move-map-rule',
  input: z.object({ id: z.number().int(), position: z.number().int().min(1) }),
  async run(tx, { id, position }) {
    const row = await ruleRow(tx.db, id);
    if (!row) return refuse({ code: 'not-found', what: 'map rule', id: String(id) });
    if (row.position === position) return done(null, null);
    await place(tx, id, position);
    return done(null, `Moved map rule ${row.name} to place ${position}`, {
      command: 'move-map-rule',
      input: { id, position: row.position },
      label: `move rule ${row.name} back`,
    });
  },
};
