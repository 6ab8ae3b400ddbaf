import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { differ, StatementRules, type StatementRule } from '@/core/matching';
import type { Minor } from '@/core/money';
import { done, refuse, type Command, type Refusal } from '../command';
import type { Reading } from '../store';
import { AccountShelf } from './account-parts';
import { linesForRules, rulesInForce } from './by-rules';
import { refreshDeep } from './deep';
import { accountPartInput } from './part-input';
import { ruleInput, ruleOf, type StatementRuleInput } from './rule-input';

/** What stands in the way of a rule: nothing that it asks for, or an account that it cannot book to. */
async function refusalOf(db: Reading, { conditions, result }: StatementRuleInput): Promise<Refusal | null> {
  if (conditions.texts.length === 0 && conditions.amountFrom === undefined && !conditions.accounts?.length) {
    return { code: 'invalid-input', field: 'conditions', expected: 'a text, an amount or an account that it asks for' };
  }
  if (result.payer !== null) {
    const payer = await db.selectFrom('payer').select('id').where('id', '=', result.payer).executeTakeFirst();
    if (!payer) return { code: 'not-found', what: 'payer', id: String(result.payer) };
  }
  const { dimensions, taxCode } = result;
  const parts = [result.account, ...result.byNumber.map(({ account }) => account)].map((account) =>
    accountPartInput.parse({ kind: 'account', id: account, amount: 1, dimensions, taxCode }),
  );
  const shelf = await AccountShelf.of(db, parts);
  const rows = parts.map((part) => shelf.row(part));
  return rows.find((row): row is Refusal => 'code' in row) ?? null;
}

async function order(db: Reading): Promise<number[]> {
  return (await db.selectFrom('statement_rule').select('id').orderBy('position').execute()).map(({ id }) => id);
}

/** Puts the rules into this order; positions are 1, 2, 3 … without a gap. */
async function arrange(db: Reading, ids: readonly number[]): Promise<void> {
  await sql`UPDATE statement_rule SET position = -position`.execute(db);
  await sql`
    UPDATE statement_rule SET position = t.key + 1 FROM json_each(${JSON.stringify(ids)}) AS t WHERE statement_rule.id = t.value
  `.execute(db);
}

/** Makes a statement rule, or changes one. What is confirmed stays; lines to explain are asked again. */
export const saveStatementRule: Command<StatementRuleInput, { rule: number }> = {
  name: 'save-statement-rule',
  input: ruleInput,
  async run(tx, input, { now, actor }) {
    const { db } = tx;
    const refused = await refusalOf(db, input);
    if (refused) return refuse(refused);
    const { id, name, active, conditions, result } = input;
    const values = {
      name,
      active: active ? (1 as const) : (0 as const),
      conditions: JSON.stringify(conditions),
      result: JSON.stringify(result),
      changed_at: now.toISOString(),
      actor: actor.name,
    };
    if (id === null) {
      const position = (await order(db)).length + 1;
      const made = await db
        .insertInto('statement_rule')
        .values({ ...values, position })
        .returning('id')
        .executeTakeFirstOrThrow();
      await refreshDeep(tx, null);
      const undo = { command: 'remove-statement-rule', input: { id: made.id }, label: `remove rule ${name}` };
      return done({ rule: made.id }, `Made statement rule ${name}`, undo);
    }
    const before = await db.selectFrom('statement_rule').selectAll().where('id', '=', id).executeTakeFirst();
    if (!before) return refuse({ code: 'not-found', what: 'statement rule', id: String(id) });
    await db.updateTable('statement_rule').set(values).where('id', '=', id).execute();
    await refreshDeep(tx, null);
    return done({ rule: id }, `Changed statement rule ${name}`, {
      command: 'save-statement-rule',
      input: { ...ruleOf(before), active: before.active === 1 },
      label: `set rule ${before.name} back`,
    });
  },
};

/** Takes a rule away; what it booked stays. */
export const removeStatementRule: Command<{ id: number }, null> = {
  name: 'remove-statement-rule',
  input: z.object({ id: z.number().int() }),
  async run(tx, { id }) {
    const { db } = tx;
    const row = await db.selectFrom('statement_rule').selectAll().where('id', '=', id).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'statement rule', id: String(id) });
    await db.deleteFrom('statement_rule').where('id', '=', id).execute();
    await arrange(db, await order(db));
    await refreshDeep(tx, null);
    return done(null, `Removed statement rule ${row.name}`, {
      command: 'save-statement-rule',
      input: { ...ruleOf(row), id: null, active: row.active === 1 },
      label: `make rule ${row.name} again`,
    });
  },
};

/** Puts a rule before or behind others: the first that applies decides. */
export const moveStatementRule: Command<{ id: number; position: number }, null> = {
  name: 'move-statement-rule',
  input: z.object({ id: z.number().int(), position: z.number().int().min(1) }),
  async run(tx, { id, position }) {
    const ids = await order(tx.db);
    const before = ids.indexOf(id) + 1;
    if (before === 0) return refuse({ code: 'not-found', what: 'statement rule', id: String(id) });
    const others = ids.filter((other) => other !== id);
    const to = Math.min(position, ids.length);
    if (to === before) return done(null, null);
    others.splice(to - 1, 0, id);
    await arrange(tx.db, others);
    await refreshDeep(tx, null);
    return done(null, 'Moved a statement rule', {
      command: 'move-statement-rule',
      input: { id, position: before },
      label: 'move it back',
    });
  },
};

/** One line of the past under a rule that is tried. */
export interface TriedLine {
  readonly id: number;
  readonly date: PlainDate;
  readonly amount: Minor;
  readonly text: string;
  /** Other rules that apply and would book it otherwise. */
  readonly collides: readonly string[];
  /** What it is matched with; null while it is to explain. */
  readonly matched: string | null;
  /** It is explained by a payout, invoices or receipts, so no rule takes it. */
  readonly explained: boolean;
}

export interface Tried {
  readonly count: number;
  readonly amount: Minor;
  readonly collisions: number;
  readonly explained: number;
  readonly lines: readonly TriedLine[];
}

const SHOWN = 60;

/** What a rule would take of all that ever came in, before it is switched on. Nothing changes by it. */
export async function tryStatementRule(
  db: Reading,
  rule: Omit<StatementRule, 'id'> & { readonly id: number | null },
): Promise<Tried> {
  const one = new StatementRules([{ ...rule, id: rule.id ?? 0 }]);
  const others = new StatementRules((await rulesInForce(db)).filter(({ id }) => id !== rule.id));
  const lines = (await linesForRules(db, sql`l.aside IS NULL`)).filter((line) => one.all(line).length > 0);
  const ids = JSON.stringify(lines.map(({ id }) => id));
  const { rows } = await sql<{ id: number; matched: string | null; explained: 0 | 1 }>`
    SELECT l.id, CASE WHEN l.match_id IS NOT NULL THEN coalesce(
        (SELECT group_concat(DISTINCT CASE p.kind WHEN 'account' THEN (SELECT code || ' ' || name FROM account WHERE id = p.ref_id) ELSE p.kind END)
          FROM match_part p WHERE p.match_id = l.match_id),
        (SELECT a.code || ' ' || a.name FROM match m JOIN account a ON a.id = m.rest_account_id WHERE m.id = l.match_id)) END AS matched,
      EXISTS (SELECT 1 FROM match_part p WHERE p.match_id = l.match_id AND p.kind <> 'account')
        OR EXISTS (SELECT 1 FROM proposal_part p WHERE p.statement_line_id = l.id AND p.kind <> 'account') AS explained
    FROM statement_line l WHERE l.id IN (SELECT value FROM json_each(${ids}))
  `.execute(db);
  const of = new Map(rows.map((row) => [row.id, row]));
  const tried = lines.map((line): TriedLine => {
    const collides = others
      .all(line)
      .filter((other) => differ(other.result, rule.result))
      .map(({ name }) => name);
    const { matched, explained } = of.get(line.id)!;
    return {
      id: line.id,
      date: line.date,
      amount: line.amount,
      text: line.text.trim(),
      collides,
      matched,
      explained: explained === 1,
    };
  });
  const total = tried.reduce((sum, line) => sum + line.amount, 0) as Minor;
  return {
    count: tried.length,
    amount: total,
    collisions: tried.filter(({ collides }) => collides.length > 0).length,
    explained: tried.filter(({ explained }) => explained).length,
    lines: tried.reverse().slice(0, SHOWN),
  };
}

export interface RuleRow extends StatementRule {
  readonly active: boolean;
  /** Whose money its lines are, where it says. */
  readonly payer: { readonly id: number; readonly name: string } | null;
  /** Lines that are booked by it, and lines to explain that it would book. */
  readonly booked: number;
  readonly waiting: number;
}

/** All rules in their order, with what each has done and would do. */
export async function listStatementRules(db: Reading): Promise<RuleRow[]> {
  const rows = await db.selectFrom('statement_rule').selectAll().orderBy('position').execute();
  // What was booked before rules were told apart by their ids is counted by name.
  const counts = await sql<{ rule: number | string; booked: number; waiting: number }>`
    SELECT rule, sum(booked) AS booked, sum(waiting) AS waiting FROM (
      SELECT coalesce(detail ->> 'ruleId', detail ->> 'rule') AS rule, count(*) AS booked, 0 AS waiting FROM match_part
      WHERE kind = 'account' AND live = 1 GROUP BY 1
      UNION ALL SELECT coalesce(detail ->> 'ruleId', detail ->> 'rule'), 0, count(*) FROM proposal_part
      WHERE kind = 'account' AND rank = 0 GROUP BY 1)
    WHERE rule IS NOT NULL GROUP BY rule
  `.execute(db);
  const rules = rows.map(ruleOf);
  const ids = JSON.stringify(rules.flatMap(({ result }) => result.payer ?? []));
  const payers = await sql<{ id: number; name: string }>`
    SELECT id, name FROM payer WHERE id IN (SELECT value FROM json_each(${ids}))
  `.execute(db);
  return rows.map((row, index) => {
    const rule = rules[index]!;
    const own = counts.rows.filter(({ rule }) => rule === row.id || rule === row.name);
    return {
      ...rule,
      payer: payers.rows.find(({ id }) => id === rule.result.payer) ?? null,
      active: row.active === 1,
      booked: own.reduce((sum, { booked }) => sum + booked, 0),
      waiting: own.reduce((sum, { waiting }) => sum + waiting, 0),
    };
  });
}
