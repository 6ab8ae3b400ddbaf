import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import type { BasisPoints, Minor } from '@/core/money';
import { amountInput, textInput } from '../billing/bill-input';
import { done, refuse, type Command, type Outcome } from '../command';
import { landingRefusal } from '../map/landing-input';
import type { Reading, Writing } from '../store';

const id = z.number().int().positive();
const code = z.string().trim().min(1).max(40);
const name = textInput(120).pipe(z.string().min(1));
const flag = z.union([z.literal(0), z.literal(1)]);
const rate = z.number().int().min(0).max(10_000);

const termsInput = z
  .object({
    id: id.nullable(),
    name,
    due_days: z.number().int().min(0).max(730),
    discount_rate: rate.max(5_000),
    discount_days: z.number().int().min(0).max(730),
    archived: flag,
  })
  .refine((terms) => terms.discount_days <= terms.due_days, {
    path: ['discount_days'],
    message: 'no more days than the invoice has until it is due',
  });
const itemInput = z.object({
  id: id.nullable(),
  code,
  name,
  description: textInput(500),
  income_account_id: id as unknown as z.ZodType<AccountId>,
  tax_code_id: id,
  price: amountInput.nullable(),
  unit: z.string().regex(/^[A-Z0-9]{2,3}$/, 'a unit code of two or three letters or digits'),
  archived: flag,
  /** Value by dimension, null for none; left out, they stay as they are. */
  dimensions: z.record(z.coerce.number().int().positive(), id.nullable()).optional(),
});
const taxCodeInput = z.object({
  id: id.nullable(),
  code,
  name,
  rate,
  account_id: id as unknown as z.ZodType<AccountId>,
  category: z.enum(['S', 'Z', 'E', 'O']),
  archived: flag,
});

export type TermsInput = {
  id: number | null;
  name: string;
  due_days: number;
  discount_rate: BasisPoints;
  discount_days: number;
  archived: 0 | 1;
};
export type ItemInput = {
  id: number | null;
  code: string;
  name: string;
  description: string;
  income_account_id: AccountId;
  tax_code_id: number;
  price: Minor | null;
  unit: string;
  archived: 0 | 1;
  dimensions?: Record<number, number | null> | undefined;
};
export type TaxCodeInput = {
  id: number | null;
  code: string;
  name: string;
  rate: BasisPoints;
  account_id: AccountId;
  category: 'S' | 'Z' | 'E' | 'O';
  archived: 0 | 1;
};

/** The lists that are kept alike: a row is added, changed or archived, and each change can be taken back. */
export type Kept = { terms: TermsInput; item: ItemInput; tax_code: TaxCodeInput };
const WORDS = { terms: 'terms', item: 'item', tax_code: 'tax code' } as const;
const BY = { terms: 'name', item: 'code', tax_code: 'code' } as const;

async function keep<K extends keyof Kept>(tx: Writing, table: K, input: Kept[K]): Promise<Outcome<{ id: number }>> {
  const { db } = tx;
  const { id: of, ...row } = input;
  const by = BY[table];
  const called = String((row as Record<string, unknown>)[by]);
  const other = await db
    .selectFrom(table as 'item')
    .select('id')
    .where(by as 'code', '=', called)
    .executeTakeFirst();
  if (other && other.id !== of) return refuse({ code: 'name-taken', what: WORDS[table], name: called });
  if (of === null) {
    const made = await db
      .insertInto(table as 'item')
      .values(row as never)
      .returning('id')
      .executeTakeFirstOrThrow();
    const undo = { command: 'remove-from-list', input: { table, id: made.id }, label: `remove ${called}` };
    return done({ id: made.id }, `Added ${WORDS[table]} ${called}`, undo);
  }
  const before = await db
    .selectFrom(table as 'item')
    .selectAll()
    .where('id', '=', of)
    .executeTakeFirst();
  if (!before) return refuse({ code: 'not-found', what: WORDS[table], id: String(of) });
  const same = Object.entries(row).every(([key, value]) => (before as Record<string, unknown>)[key] === value);
  if (same) return done({ id: of }, null);
  await db
    .updateTable(table as 'item')
    .set(row as never)
    .where('id', '=', of)
    .execute();
  const undo = { command: `keep-${WORDS[table].replace(' ', '-')}`, input: before, label: `set ${called} back` };
  return done({ id: of }, `Changed ${WORDS[table]} ${called}`, undo);
}

export const keepTerms: Command<TermsInput, { id: number }> = {
  name: 'keep-terms',
  input: termsInput,
  run: (tx, input) => keep(tx, 'terms', input),
};

/** What an item's lines are booked under where nothing says otherwise: value by dimension. */
export async function itemDimensions(db: Reading, item: number): Promise<Record<number, number>> {
  const rows = await db
    .selectFrom('map_default')
    .select(['field', 'value'])
    .where('layer', '=', 'item')
    .where('ref_id', '=', item)
    .where('field', 'like', 'dimension:%')
    .orderBy('field')
    .execute();
  return Object.fromEntries(rows.map(({ field, value }) => [Number(field.slice('dimension:'.length)), value]));
}

/** Keeps an item with the dimensions it carries. */
export const keepItem: Command<ItemInput, { id: number }> = {
  name: 'keep-item',
  input: itemInput,
  async run(tx, input) {
    const account = await tx.db
      .selectFrom('account')
      .select(['class', 'code', 'name'])
      .where('id', '=', input.income_account_id)
      .executeTakeFirst();
    if (account?.class !== 'income') {
      return refuse({
        code: 'account-unfit',
        account: account ? `${account.code} ${account.name}` : '',
        decides: 'income',
      });
    }
    const { dimensions, ...row } = input;
    const merged = await tx.db
      .selectFrom('item')
      .innerJoin('item as into', 'into.id', 'item.merged_into')
      .select(['item.code', 'into.code as into'])
      .where('item.id', '=', input.id ?? 0)
      .executeTakeFirst();
    if (merged && input.archived === 0)
      return refuse({ code: 'merged', what: 'item', name: merged.code, into: merged.into });
    const kept = await keep(tx, 'item', row);
    if ('refusal' in kept || dimensions === undefined) return kept;
    const item = kept.done.value.id;
    const before = await itemDimensions(tx.db, item);
    const now = Object.entries(dimensions).flatMap(([dimension, value]) =>
      value === null ? [] : [[Number(dimension), value] as const],
    );
    if (JSON.stringify(before) === JSON.stringify(Object.fromEntries(now))) return kept;
    const wrong = await landingRefusal(tx.db, { dimensions: Object.fromEntries(now) });
    if (wrong) return refuse(wrong);
    await tx.db
      .deleteFrom('map_default')
      .where('layer', '=', 'item')
      .where('ref_id', '=', item)
      .where('field', 'like', 'dimension:%')
      .execute();
    for (const [dimension, value] of now) {
      await tx.db
        .insertInto('map_default')
        .values({ layer: 'item', ref_id: item, field: `dimension:${dimension}`, value })
        .execute();
    }
    const gone = Object.fromEntries(Object.keys(dimensions).map((dimension) => [dimension, null]));
    const undo =
      kept.done.undo?.command === 'remove-from-list'
        ? kept.done.undo
        : {
            command: 'keep-item',
            input: {
              ...((kept.done.undo?.input as object | undefined) ?? { ...row, id: item }),
              dimensions: { ...gone, ...before },
            },
            label: `set ${row.code} back`,
          };
    return done(kept.done.value, kept.done.summary ?? `Changed item ${row.code}`, undo);
  },
};

/** A tax code's rate holds from now on: what was issued keeps the rate it was issued with. */
export const keepTaxCode: Command<TaxCodeInput, { id: number }> = {
  name: 'keep-tax-code',
  input: taxCodeInput,
  run: (tx, input) => keep(tx, 'tax_code', input),
};

/** Takes a row out of a list again while nothing names it. */
export const removeFromList: Command<{ table: keyof Kept; id: number }, null> = {
  name: 'remove-from-list',
  input: z.object({ table: z.enum(['terms', 'item', 'tax_code']), id }),
  async run({ db }, { table, id: of }) {
    const row = await db
      .selectFrom(table as 'item')
      .selectAll()
      .where('id', '=', of)
      .executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: WORDS[table], id: String(of) });
    const called = String((row as unknown as Record<string, unknown>)[BY[table]]);
    try {
      // What is named elsewhere is refused by its references; the statement alone is then undone.
      await db
        .deleteFrom(table as 'item')
        .where('id', '=', of)
        .execute();
    } catch (error) {
      if ((error as { code?: string }).code !== 'SQLITE_CONSTRAINT_FOREIGNKEY') throw error;
      return refuse({ code: 'in-use', what: WORDS[table], name: called });
    }
    const undo = {
      command: `keep-${WORDS[table].replace(' ', '-')}`,
      input: { ...row, id: null },
      label: `add ${called} again`,
    };
    return done(null, `Removed ${WORDS[table]} ${called}`, undo);
  },
};

export interface LetterheadInput {
  address: string;
  email: string;
  tax_number: string;
  number_prefix: string;
  write_off_limit: Minor;
  bic: string;
}

/** Sets what stands on the books' own documents. */
export const setLetterhead: Command<LetterheadInput, null> = {
  name: 'set-letterhead',
  input: z.object({
    address: textInput(500),
    email: z.union([z.literal(''), z.email('an email address')]),
    tax_number: textInput(40),
    number_prefix: z.string().regex(/^[A-Za-z0-9/-]{0,12}$/, 'letters, digits, dashes and slashes'),
    write_off_limit: amountInput.refine((amount) => amount >= 0, 'nothing below zero'),
    bic: z.string().regex(/^([A-Z0-9]{8}([A-Z0-9]{3})?)?$/, 'a BIC of 8 or 11 letters and digits'),
  }),
  async run({ db }, { bic, ...input }) {
    const { address, email, tax_number, number_prefix, write_off_limit, currency } = await db
      .selectFrom('books')
      .selectAll()
      .executeTakeFirstOrThrow();
    const bank = await db
      .selectFrom('bank_account')
      .select(['account_id', 'bic'])
      .where('currency', '=', currency)
      .orderBy('account_id')
      .executeTakeFirst();
    const before = { address, email, tax_number, number_prefix, write_off_limit, bic: bank?.bic ?? '' };
    if (JSON.stringify(before) === JSON.stringify({ ...before, ...input, bic })) return done(null, null);
    await db.updateTable('books').set(input).execute();
    if (bank) await db.updateTable('bank_account').set({ bic }).where('account_id', '=', bank.account_id).execute();
    return done(null, 'Changed what stands on documents', {
      command: 'set-letterhead',
      input: before,
      label: 'set it back',
    });
  },
};
