import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import { done, refuse, type Command } from '../command';
import type { Reading } from '../store';
import { landingRefusal } from './landing-input';

const defaultInput = z.object({
  layer: z.enum(['item', 'payer', 'channel', 'books']),
  /** Id of the item, payer or channel; 1 for the books. */
  ref: z.number().int().positive(),
  field: z.string().regex(/^(income|taxCode|dimension:\d{1,9})$/),
  /** Account, tax code or dimension value; null leaves it to the layer behind. */
  value: z.number().int().positive().nullable(),
});
export type DefaultInput = z.infer<typeof defaultInput>;

async function nameOf(db: Reading, layer: DefaultInput['layer'], ref: number): Promise<string | null> {
  switch (layer) {
    case 'books':
      return 'these books';
    case 'item':
    case 'payer':
    case 'channel': {
      const row = await db.selectFrom(layer).select('name').where('id', '=', ref).executeTakeFirst();
      return row?.name ?? null;
    }
  }
}

const landingOf = ({ field, value }: DefaultInput) =>
  value === null
    ? {}
    : field === 'income'
      ? { income: value as AccountId }
      : field === 'taxCode'
        ? { taxCode: value }
        : { dimensions: { [Number(field.slice('dimension:'.length))]: value } };

/** Sets what a layer behind the rules decides: an item, a payer, a channel or the books. */
export const setMapDefault: Command<DefaultInput, null> = {
  name: 'set-map-default',
  input: defaultInput,
  async run({ db }, input) {
    const { layer, ref, field, value } = input;
    const name = await nameOf(db, layer, ref);
    if (name === null) return refuse({ code: 'not-found', what: layer, id: String(ref) });
    const refused = await landingRefusal(db, landingOf(input));
    if (refused) return refuse(refused);
    const before = await currentDefault(db, input);
    if (before === value) return done(null, null);
    await db
      .deleteFrom('map_default')
      .where('layer', '=', layer)
      .where('ref_id', '=', ref)
      .where('field', '=', field)
      .execute();
    // Channels and items keep income and tax code in their own columns.
    if (layer === 'channel' && field === 'income') {
      await db
        .updateTable('channel')
        .set({ income_account_id: value as AccountId })
        .where('id', '=', ref)
        .execute();
    } else if (layer === 'channel' && field === 'taxCode') {
      await db.updateTable('channel').set({ tax_code_id: value }).where('id', '=', ref).execute();
    } else if (layer === 'item' && (field === 'income' || field === 'taxCode')) {
      if (value === null) return refuse({ code: 'invalid-input', field: 'value', expected: 'an item always has one' });
      const set = field === 'income' ? { income_account_id: value as AccountId } : { tax_code_id: value };
      await db.updateTable('item').set(set).where('id', '=', ref).execute();
    } else if (value !== null) {
      await db.insertInto('map_default').values({ layer, ref_id: ref, field, value }).execute();
    }
    return done(null, `Changed the default of ${name}`, {
      command: 'set-map-default',
      input: { layer, ref, field, value: before },
      label: `set the default of ${name} back`,
    });
  },
};

async function currentDefault(db: Reading, { layer, ref, field }: DefaultInput): Promise<number | null> {
  if ((layer === 'channel' || layer === 'item') && (field === 'income' || field === 'taxCode')) {
    const column = field === 'income' ? 'income_account_id' : 'tax_code_id';
    const row = await db.selectFrom(layer).select(column).where('id', '=', ref).executeTakeFirst();
    return (row?.[column as never] as number | null | undefined) ?? null;
  }
  const row = await db
    .selectFrom('map_default')
    .select('value')
    .where('layer', '=', layer)
    .where('ref_id', '=', ref)
    .where('field', '=', field)
    .executeTakeFirst();
  return row?.value ?? null;
}
