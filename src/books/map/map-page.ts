import { reviewRules, type Landing, type MapConditions, type RuleTrouble } from '@/core/map';
import type { AccountId } from '@/core/ledger';
import { listDimensions, type DimensionView } from '../dimensions/dimensions';
import type { ChannelKind, PostingMode, Reading } from '../store';
import type { AccountChoice } from './account-choices';
import { ruleOf } from './rules-in-force';

export interface Named {
  readonly id: number;
  readonly name: string;
}

export interface ChannelRow extends Named {
  readonly kind: ChannelKind;
  readonly currency: string;
  readonly mode: PostingMode;
  readonly clearing: AccountId;
  readonly bank: AccountId;
  readonly fees: AccountId;
  readonly refunds: AccountId;
  readonly tips: AccountId;
  readonly income: AccountId | null;
  readonly taxCode: number | null;
  readonly dimensions: Readonly<Record<number, number>>;
}

export interface RuleRow extends Named {
  readonly position: number;
  readonly active: boolean;
  readonly conditions: MapConditions;
  readonly landing: Landing;
}

/** Everything the map page shows and offers, but what it takes to look through the receipts. */
export interface MapPage {
  readonly channels: readonly ChannelRow[];
  readonly sites: readonly (Named & { readonly channel: number })[];
  readonly items: readonly Named[];
  readonly payers: readonly Named[];
  readonly taxCodes: readonly Named[];
  readonly accounts: readonly AccountChoice[];
  readonly dimensions: readonly DimensionView[];
  readonly rules: readonly RuleRow[];
  readonly troubles: readonly RuleTrouble[];
  readonly books: { readonly income: number | null; readonly taxCode: number | null };
}

export async function mapPage(db: Reading): Promise<MapPage> {
  const channels = await db.selectFrom('channel').selectAll().orderBy('id').execute();
  const modes = await db.selectFrom('channel_posting').selectAll().orderBy('from_day', 'desc').execute();
  const defaults = await db.selectFrom('map_default').selectAll().execute();
  const rows = await db.selectFrom('map_rule').selectAll().orderBy('position').execute();
  const accounts = await db.selectFrom('account').selectAll().orderBy('code').execute();
  const rules = rows.map((row) => ({ ...ruleOf(row), position: row.position, active: row.active === 1 }));
  const asked = [...new Set(rules.flatMap((rule) => rule.conditions.payers ?? []))];
  const payers = asked.length
    ? await db.selectFrom('payer').select(['id', 'name']).where('id', 'in', asked).execute()
    : [];
  const ofBooks = (field: string) =>
    defaults.find((row) => row.layer === 'books' && row.field === field)?.value ?? null;
  return {
    channels: channels.map((channel) => ({
      id: channel.id,
      name: channel.name,
      kind: channel.kind,
      currency: channel.currency,
      mode: modes.find((row) => row.channel_id === channel.id)?.mode ?? 'each',
      clearing: channel.clearing_account_id,
      bank: channel.bank_account_id,
      fees: channel.fee_account_id,
      refunds: channel.refund_account_id,
      tips: channel.tips_account_id,
      income: channel.income_account_id,
      taxCode: channel.tax_code_id,
      dimensions: Object.fromEntries(
        defaults
          .filter((row) => row.layer === 'channel' && row.ref_id === channel.id && row.field.startsWith('dimension:'))
          .map((row) => [row.field.slice('dimension:'.length), row.value]),
      ),
    })),
    sites: (await db.selectFrom('site').selectAll().orderBy('name').execute()).map((site) => ({
      id: site.id,
      name: site.name,
      channel: site.channel_id,
    })),
    items: await db.selectFrom('item').select(['id', 'code as name']).orderBy('code').execute(),
    payers,
    taxCodes: await db.selectFrom('tax_code').select(['id', 'code as name']).orderBy('code').execute(),
    accounts: accounts.map(({ id, code, name, class: of, role }) => ({ id, name: `${code} ${name}`, class: of, role })),
    dimensions: await listDimensions(db),
    rules,
    troubles: reviewRules(rules.filter((rule) => rule.active)),
    books: { income: ofBooks('income'), taxCode: ofBooks('taxCode') },
  };
}

/** Payers whose name has this in it, for choosing one. */
export async function findPayers(db: Reading, text: string): Promise<Named[]> {
  return db
    .selectFrom('payer')
    .select(['id', 'name'])
    .where('name', 'like', `%${text.replace(/[%_]/g, '')}%`)
    .where('merged_into', 'is', null)
    .orderBy('name')
    .limit(20)
    .execute();
}
