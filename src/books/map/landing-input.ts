import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import { NO_TAX, type Landing, type MapConditions } from '@/core/map';
import type { Minor } from '@/core/money';
import type { Refusal } from '../command';
import { KEPT_BY_DOCUMENTS } from '../matching/rest-accounts';
import type { Reading } from '../store';

const id = z.number().int().positive();
const account = z.custom<AccountId>((value) => Number.isSafeInteger(value) && (value as number) > 0, 'an account');
const ids = z.array(id).max(500).optional();
const words = z.array(z.string().trim().min(1).max(60)).max(100).optional();
const size = z
  .custom<Minor>((value) => Number.isSafeInteger(value) && (value as number) >= 0, 'an amount of at least 0')
  .optional();

export const landingInput: z.ZodType<Landing> = z.object({
  income: account.optional(),
  taxCode: id.or(z.literal(NO_TAX)).optional(),
  deposit: account.optional(),
  fees: account.optional(),
  dimensions: z.record(z.coerce.number().int().positive(), id).optional(),
});

export const conditionsInput: z.ZodType<MapConditions> = z.object({
  channels: ids,
  sites: ids,
  payers: ids,
  items: ids,
  text: z.string().trim().min(1).max(200).optional(),
  methods: words,
  currencies: words,
  amountFrom: size,
  amountTo: size,
  countries: words,
  regions: words,
  funds: words,
});

/** Which classes an account may have to be chosen for each decision. */
const CLASSES = {
  income: ['income', 'liability', 'equity', 'expense'],
  deposit: ['asset'],
  fees: ['expense'],
} as const;

/**
 * Checks that a landing names accounts, a tax code and dimension values that are there, and no account that the books
 * keep by themselves: a clearing account is its own channel's only, a bank account is reached by matching.
 */
export async function landingRefusal(db: Reading, landing: Landing): Promise<Refusal | null> {
  for (const field of ['income', 'deposit', 'fees'] as const) {
    const chosen = landing[field];
    if (chosen === undefined) continue;
    const row = await db.selectFrom('account').selectAll().where('id', '=', chosen).executeTakeFirst();
    if (!row) return { code: 'not-found', what: 'account', id: String(chosen) };
    const fits = (CLASSES[field] as readonly string[]).includes(row.class);
    if (!fits || KEPT_BY_DOCUMENTS.some((role) => role === row.role)) {
      return { code: 'account-unfit', account: `${row.code} ${row.name}`, decides: field };
    }
  }
  if (landing.taxCode !== undefined && landing.taxCode !== NO_TAX) {
    const tax = await db.selectFrom('tax_code').select('id').where('id', '=', landing.taxCode).executeTakeFirst();
    if (!tax) return { code: 'not-found', what: 'tax code', id: String(landing.taxCode) };
  }
  for (const [dimension, value] of Object.entries(landing.dimensions ?? {})) {
    const row = await db
      .selectFrom('dimension_value')
      .select('id')
      .where('id', '=', value)
      .where('dimension_id', '=', Number(dimension))
      .executeTakeFirst();
    if (!row) return { code: 'not-found', what: 'dimension value', id: String(value) };
  }
  return null;
}
