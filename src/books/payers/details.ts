import { sql } from 'kysely';
import { z } from 'zod';
import { textInput } from '../billing/bill-input';
import { askAgain } from '../matching/ask-again';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';

export interface PayerDetails {
  name: string;
  email: string;
  /** Other emails they write and pay from. */
  emails: string[];
  address: string;
  country: string;
  taxNumber: string;
  terms: number | null;
  note: string;
  archived: boolean;
  /** What channels call them. */
  externals: { channel: number; id: string }[];
}

const email = z
  .string()
  .trim()
  .toLowerCase()
  .pipe(z.union([z.literal(''), z.email('an email address')]));

const detailsInput = z.object({
  name: textInput(120).pipe(z.string().min(1, 'a name')),
  email,
  emails: z.array(email).max(20),
  address: textInput(500),
  country: z.string().regex(/^([A-Z]{2})?$/, 'a country code of two letters'),
  taxNumber: textInput(40),
  terms: z.number().int().positive().nullable(),
  note: textInput(2_000),
  archived: z.boolean(),
  externals: z.array(z.object({ channel: z.number().int(), id: z.string().trim().min(1).max(100) })).max(50),
});

/** What the books know of a payer, as it is changed in one form; null where there is none. */
export async function payerDetails(db: Reading, id: number): Promise<PayerDetails | null> {
  const row = await db
    .selectFrom('payer')
    .selectAll()
    .where('id', '=', id)
    .where('merged_into', 'is', null)
    .executeTakeFirst();
  if (!row) return null;
  const aliases = await db
    .selectFrom('payer_alias')
    .select('email')
    .distinct()
    .where('payer_id', '=', id)
    .where('email', 'not in', ['', row.email])
    .orderBy('email')
    .execute();
  const externals = await db
    .selectFrom('payer_external')
    .select(['channel_id as channel', 'external_id as id'])
    .where('payer_id', '=', id)
    .orderBy('channel_id')
    .orderBy('external_id')
    .execute();
  return {
    name: row.name,
    email: row.email,
    emails: aliases.map((alias) => alias.email),
    address: row.address,
    country: row.country,
    taxNumber: row.tax_number,
    terms: row.terms_id,
    note: row.note,
    archived: row.archived === 1,
    externals,
  };
}

type Input = { payer: number | null; details: PayerDetails; evenSo?: boolean | undefined };

/** Adds a payer or changes one. An email that is another payer's already is asked about first. */
export const setPayerDetails: Command<Input, { payer: number }> = {
  name: 'set-payer-details',
  input: z.object({
    payer: z.number().int().positive().nullable(),
    details: detailsInput,
    /** Another payer has this email, and they are two all the same. */
    evenSo: z.boolean().optional(),
  }),
  async run(tx, { payer, details, evenSo }, context) {
    const { db } = tx;
    const before = payer === null ? null : await payerDetails(db, payer);
    if (payer !== null && before === null) return refuse({ code: 'not-found', what: 'payer', id: String(payer) });
    if (before && JSON.stringify(before) === JSON.stringify(details)) return done({ payer: payer! }, null);
    if (details.email !== '' && details.email !== before?.email && !evenSo) {
      const other = await db
        .selectFrom('payer')
        .select(['id', 'name'])
        .where('email', '=', details.email)
        .where('merged_into', 'is', null)
        .executeTakeFirst();
      if (other && other.id !== payer) return refuse({ code: 'email-taken', email: details.email, payer: other.name });
    }
    const row = {
      name: details.name,
      email: details.email,
      address: details.address,
      country: details.country,
      tax_number: details.taxNumber,
      terms_id: details.terms,
      note: details.note,
      archived: details.archived ? (1 as const) : (0 as const),
    };
    let id = payer;
    if (id === null) {
      id = (await db.insertInto('payer').values(row).returning('id').executeTakeFirstOrThrow()).id;
    } else {
      await db.updateTable('payer').set(row).where('id', '=', id).execute();
      const gone = before!.emails.filter((one) => !details.emails.includes(one));
      await db
        .deleteFrom('payer_alias')
        .where('payer_id', '=', id)
        .where('email', 'in', [...gone, ' '])
        .execute();
      await db.deleteFrom('payer_external').where('payer_id', '=', id).execute();
    }
    for (const one of details.emails.filter((address) => address !== '' && !before?.emails.includes(address))) {
      await sql`
        INSERT INTO payer_alias (name, email, payer_id) VALUES ('', ${one}, ${id}) ON CONFLICT DO NOTHING
      `.execute(db);
    }
    for (const { channel, id: external } of details.externals) {
      const other = await db
        .selectFrom('payer_external')
        .innerJoin('payer', 'payer.id', 'payer_external.payer_id')
        .select('payer.name')
        .where('channel_id', '=', channel)
        .where('external_id', '=', external)
        .executeTakeFirst();
      if (other) return refuse({ code: 'name-taken', what: `payer with the id ${external}, ${other.name},`, name: '' });
      await db
        .insertInto('payer_external')
        .values({ channel_id: channel, external_id: external, payer_id: id })
        .execute();
    }
    // Deposits are told by names.
    if (before && before.name !== details.name) await askAgain(tx, context);
    const archive = { ...details, archived: true };
    return done({ payer: id }, `${payer === null ? 'Added' : 'Changed'} payer ${details.name}`, {
      command: 'set-payer-details',
      input: { payer: id, details: before ?? archive, evenSo: true },
      label: before === null ? `archive ${details.name}` : `set ${details.name} back`,
    });
  },
};
