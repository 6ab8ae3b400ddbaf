import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import { done, refuse, type Command } from '../command';
import { sql } from 'kysely';
import type { Reading, Writing } from '../store';

const name = z.string().trim().min(1).max(60);

export interface DimensionView {
  readonly id: number;
  readonly name: string;
  readonly values: readonly { readonly id: number; readonly name: string; readonly active: 0 | 1 }[];
  /** Accounts whose lines must say it. */
  readonly requiredOn: readonly AccountId[];
}

export async function listDimensions(db: Reading): Promise<DimensionView[]> {
  const dimensions = await db.selectFrom('dimension').selectAll().orderBy('id').execute();
  const values = await db.selectFrom('dimension_value').selectAll().orderBy('name').execute();
  const required = await db.selectFrom('account_dimension').selectAll().execute();
  return dimensions.map((dimension) => ({
    ...dimension,
    values: values.filter((value) => value.dimension_id === dimension.id),
    requiredOn: required.filter((row) => row.dimension_id === dimension.id).map((row) => row.account_id),
  }));
}

/** Adds an axis of analysis: fund, site, department … with its first values. */
export const addDimension: Command<{ name: string; values: string[] }, { dimension: number }> = {
  name: 'add-dimension',
  input: z.object({ name, values: z.array(name).max(200) }),
  async run({ db }, input) {
    const twice = await db.selectFrom('dimension').select('id').where('name', '=', input.name).executeTakeFirst();
    if (twice) return refuse({ code: 'name-taken', what: 'dimension', name: input.name });
    const { id } = await db
      .insertInto('dimension')
      .values({ name: input.name })
      .returning('id')
      .executeTakeFirstOrThrow();
    const values = [...new Map(input.values.map((value) => [value.toLowerCase(), value])).values()];
    if (values.length > 0) {
      await db
        .insertInto('dimension_value')
        .values(values.map((value) => ({ dimension_id: id, name: value })))
        .execute();
    }
    return done({ dimension: id }, `Added dimension ${input.name}`, {
      command: 'remove-dimension',
      input: { id },
      label: `remove dimension ${input.name}`,
    });
  },
};

/** Takes a dimension out again while nothing is booked under it. */
export const removeDimension: Command<{ id: number }, null> = {
  name: 'remove-dimension',
  input: z.object({ id: z.number().int() }),
  async run({ db }, { id }) {
    const row = await db.selectFrom('dimension').selectAll().where('id', '=', id).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'dimension', id: String(id) });
    const booked = await db
      .selectFrom('journal_line_dimension')
      .select('journal_id')
      .where('dimension_id', '=', id)
      .limit(1)
      .executeTakeFirst();
    if (booked) return refuse({ code: 'in-use', what: 'dimension', name: row.name });
    await db.deleteFrom('account_dimension').where('dimension_id', '=', id).execute();
    await db.deleteFrom('map_default').where('field', '=', `dimension:${id}`).execute();
    await db.deleteFrom('dimension_value').where('dimension_id', '=', id).execute();
    await db.deleteFrom('dimension').where('id', '=', id).execute();
    return done(null, `Removed dimension ${row.name}`);
  },
};

interface ValueInput {
  readonly dimension: number;
  readonly name: string;
  readonly active: boolean;
  /** Switched off, it goes out altogether where nothing is booked or ruled by it: so adding it is taken back. */
  readonly out?: boolean | undefined;
}

/** Takes a value out that nothing refers to; false where something does. */
async function takenOut(db: Writing['db'], dimension: number, id: number): Promise<boolean> {
  const path = `$.dimensions."${dimension}"`;
  const { rows } = await sql<{ ruled: 0 | 1 }>`
    SELECT EXISTS (SELECT 1 FROM map_default WHERE field = ${`dimension:${dimension}`} AND value = ${id})
      OR EXISTS (SELECT 1 FROM map_rule WHERE landing ->> ${path} = ${id})
      OR EXISTS (SELECT 1 FROM statement_rule WHERE result ->> ${path} = ${id}) AS ruled
  `.execute(db);
  if (rows[0]!.ruled === 1) return false;
  try {
    await db.deleteFrom('dimension_value').where('id', '=', id).execute();
    return true;
  } catch (error) {
    // What is referred to is refused by its references; the statement alone is then undone.
    if ((error as { code?: string }).code === 'SQLITE_CONSTRAINT_FOREIGNKEY') return false;
    throw error;
  }
}

/** Adds a value to a dimension, or switches one on or off: what is off is not offered any more, and stays booked. */
export const setDimensionValue: Command<ValueInput, { value: number }> = {
  name: 'set-dimension-value',
  input: z.object({ dimension: z.number().int(), name, active: z.boolean(), out: z.boolean().optional() }),
  async run({ db }, { dimension, name: value, active, out }) {
    const parent = await db.selectFrom('dimension').selectAll().where('id', '=', dimension).executeTakeFirst();
    if (!parent) return refuse({ code: 'not-found', what: 'dimension', id: String(dimension) });
    const before = await db
      .selectFrom('dimension_value')
      .selectAll()
      .where('dimension_id', '=', dimension)
      .where('name', '=', value)
      .executeTakeFirst();
    const now = active ? (1 as const) : (0 as const);
    if (before?.active === now) return refuse({ code: 'name-taken', what: parent.name, name: value });
    if (!before && !active) return refuse({ code: 'not-found', what: parent.name, id: value });
    const undo = {
      command: 'set-dimension-value',
      input: { dimension, name: value, active: !active, ...(!before && { out: true }) },
      label: `${active ? 'switch off' : 'add'} ${parent.name} ${value}`,
    };
    const said = `${active ? 'Added' : 'Switched off'} ${parent.name} ${value}`;
    if (!before) {
      const row = { dimension_id: dimension, name: value, active: now };
      const { id } = await db.insertInto('dimension_value').values(row).returning('id').executeTakeFirstOrThrow();
      return done({ value: id }, said, undo);
    }
    if (!(out && (await takenOut(db, dimension, before.id)))) {
      await db.updateTable('dimension_value').set({ active: now }).where('id', '=', before.id).execute();
    }
    return done({ value: before.id }, said, undo);
  },
};

/** Asks, or no longer asks, that lines on an account say a dimension. What is posted already stays. */
export const requireDimension: Command<{ dimension: number; account: number; required: boolean }, null> = {
  name: 'require-dimension',
  input: z.object({ dimension: z.number().int(), account: z.number().int(), required: z.boolean() }),
  async run({ db }, { dimension, account, required }) {
    const parent = await db.selectFrom('dimension').selectAll().where('id', '=', dimension).executeTakeFirst();
    if (!parent) return refuse({ code: 'not-found', what: 'dimension', id: String(dimension) });
    const on = await db
      .selectFrom('account')
      .selectAll()
      .where('id', '=', account as AccountId)
      .executeTakeFirst();
    if (!on) return refuse({ code: 'not-found', what: 'account', id: String(account) });
    if (on.class !== 'income' && on.class !== 'expense') {
      return refuse({ code: 'account-unfit', account: `${on.code} ${on.name}`, decides: 'dimension' });
    }
    const row = { account_id: account as AccountId, dimension_id: dimension };
    if (required)
      await db
        .insertInto('account_dimension')
        .values(row)
        .onConflict((c) => c.doNothing())
        .execute();
    else {
      await db
        .deleteFrom('account_dimension')
        .where('account_id', '=', row.account_id)
        .where('dimension_id', '=', dimension)
        .execute();
    }
    const what = `${parent.name} on ${on.code} ${on.name}`;
    return done(null, required ? `Lines must now say ${what}` : `Lines need not say ${what} any more`, {
      command: 'require-dimension',
      input: { dimension, account, required: !required },
      label: required ? `no longer ask for ${what}` : `ask for ${what} again`,
    });
  },
};
