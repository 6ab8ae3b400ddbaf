import { putInRules } from '../map/put-in-rules';
import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { plural } from '@/core/words';
import { askAgain } from '../matching/ask-again';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';
import { aliasFor, giveBack, payerOf } from './give-back';

/** A name that came with an email that another payer has, or several: one person, or two? */
export interface SamePayerQuestion {
  /** "Name <email>", as it came. */
  readonly said: string;
  /** The payer it was put under; null where several have the email and nobody was chosen. */
  readonly payer: { readonly id: number; readonly name: string } | null;
  /** Others with the email, who may be meant. */
  readonly others: readonly { readonly id: number; readonly name: string }[];
  readonly receipts: number;
  readonly gross: Minor;
  readonly last: PlainDate;
}

const ASKED = 50;

/** Splits "Name <email>" again. */
export function nameAndEmail(said: string): { readonly name: string; readonly email: string } {
  const parts = /^(.*?)\s*<([^<>]*)>$/.exec(said);
  return parts ? { name: parts[1]!, email: parts[2]! } : { name: said, email: '' };
}

/** The names that are asked about, most receipts first. */
export async function samePayerQuestions(db: Reading): Promise<SamePayerQuestion[]> {
  const { rows } = await sql<{
    said: string;
    payer: number | null;
    name: string;
    receipts: number;
    gross: Minor;
    last: PlainDate;
  }>`
    SELECT r.payer_said AS said, r.payer_id AS payer, coalesce(p.name, '') AS name, count(*) AS receipts,
      sum(r.gross) AS gross, max(r.book_date) AS last
    FROM receipt r LEFT JOIN payer p ON p.id = r.payer_id
    WHERE r.payer_said IS NOT NULL GROUP BY r.payer_said, r.payer_id ORDER BY receipts DESC, said LIMIT ${ASKED}
  `.execute(db);
  const questions: SamePayerQuestion[] = [];
  for (const { payer, name, ...row } of rows) {
    const { email } = nameAndEmail(row.said);
    const sharing = await db
      .selectFrom('payer')
      .select(['id', 'name'])
      .where('email', '=', email)
      .where('email', '<>', '')
      .where('merged_into', 'is', null)
      .orderBy('name')
      .execute();
    const own = payer === null ? null : { id: payer, name };
    questions.push({ ...row, payer: own, others: sharing.filter(({ id }) => id !== payer) });
  }
  return questions;
}

export interface SaidIsInput {
  said: string;
  payer: number | null;
  /** Who it is: a payer that is there, or null for one to be made of the name and email as they came. */
  is: number | null;
}

/** Answers who is meant by a name that came with somebody's email: its receipts follow, and it is not asked again. */
export const saidIs: Command<SaidIsInput, { payer: number; receipts: number }> = {
  name: 'said-is',
  input: z.object({
    said: z.string().min(1).max(1_000),
    payer: z.number().int().nullable(),
    is: z.number().int().nullable(),
  }),
  async run(tx, { said, payer, is }, context) {
    const { db } = tx;
    const { name, email } = nameAndEmail(said);
    const { rows } = await sql<{ id: number }>`
      SELECT id FROM receipt WHERE payer_said = ${said} AND payer_id IS ${payer}
    `.execute(db);
    if (rows.length === 0) return refuse({ code: 'not-found', what: 'name to ask about', id: said });
    let to: { id: number; name: string };
    let made: number | null = null;
    if (is === null) {
      const named = name || email;
      const row = await db.insertInto('payer').values({ name: named, email }).returning('id').executeTakeFirstOrThrow();
      made = row.id;
      to = { id: row.id, name: named };
    } else {
      const there = await payerOf(db, is);
      if (!there) return refuse({ code: 'not-found', what: 'payer', id: String(is) });
      to = there;
    }
    const receipts = rows.map(({ id }) => ({ id, payer, said }));
    await sql`
      UPDATE receipt SET payer_id = ${to.id}, payer_said = NULL WHERE payer_said = ${said} AND payer_id IS ${payer}
    `.execute(db);
    const alias = is === null ? [] : await aliasFor(db, { name, email, payer: to.id });
    await askAgain(tx, context);
    return done(
      { payer: to.id, receipts: receipts.length },
      `${name || email} is ${is === null ? 'a payer of their own' : to.name}, ${plural(receipts.length, 'receipt')}`,
      giveBack({ receipts, aliases: alias, made }, `ask about ${name || email} again`),
    );
  },
};

/** Puts one payer's receipts, invoices and names under another. The one merged is kept, for its name and its history. */
export const mergePayers: Command<{ from: number; into: number }, { receipts: number; invoices: number }> = {
  name: 'merge-payers',
  input: z.object({ from: z.number().int(), into: z.number().int() }),
  async run(tx, { from, into }, context) {
    const { db } = tx;
    const [one, other] = [await payerOf(db, from), await payerOf(db, into)];
    if (!one) return refuse({ code: 'not-found', what: 'payer', id: String(from) });
    if (!other) return refuse({ code: 'not-found', what: 'payer', id: String(into) });
    if (from === into) return refuse({ code: 'invalid-input', field: 'into', expected: 'another payer' });
    const ids = async (table: 'receipt' | 'invoice') =>
      (await db.selectFrom(table).select('id').where('payer_id', '=', from).execute()).map(({ id }) => id);
    const [receipts, invoices] = [await ids('receipt'), await ids('invoice')];
    const said = await db
      .selectFrom('receipt')
      .select(['id', 'payer_said as said'])
      .where('payer_id', '=', from)
      .where('payer_said', 'is not', null)
      .execute();
    const saidOf = new Map(said.map((row) => [row.id, row.said]));
    const externals = await db
      .selectFrom('payer_external')
      .select(['channel_id as channel', 'external_id as external'])
      .where('payer_id', '=', from)
      .execute();
    const channels = await db.selectFrom('channel').select('id').where('payer_id', '=', from).execute();
    const known = await db.selectFrom('payer_alias').select(['name', 'email']).where('payer_id', '=', from).execute();
    for (const table of ['receipt', 'invoice', 'payer_external', 'payer_alias', 'channel'] as const) {
      await db.updateTable(table).set({ payer_id: into }).where('payer_id', '=', from).execute();
    }
    await db
      .updateTable('receipt')
      .set({ payer_said: null })
      .where('id', 'in', [...saidOf.keys(), -1])
      .execute();
    const rules = await putInRules(db, 'payers', from, into);
    await db.updateTable('payer').set({ merged_into: into }).where('id', '=', from).execute();
    const aliases = await aliasFor(db, { name: one.name, email: one.email, payer: into });
    await askAgain(tx, context);
    return done(
      { receipts: receipts.length, invoices: invoices.length },
      `Merged ${one.name} into ${other.name}`,
      giveBack(
        {
          receipts: receipts.map((id) => ({ id, payer: from, said: saidOf.get(id) ?? null })),
          invoices: invoices.map((id) => ({ id, payer: from })),
          externals: externals.map((row) => ({ ...row, payer: from })),
          channels: channels.map(({ id }) => ({ id, payer: from })),
          keptAliases: known.map((row) => ({ ...row, payer: from })),
          aliases,
          rules,
          unmerge: from,
        },
        `part ${one.name} and ${other.name} again`,
      ),
    );
  },
};
