import type { FallenThrough } from '@/books/map/layers';
import type { MapPage, Named, RuleRow } from '@/books/map/map-page';
import type { AccountId } from '@/core/ledger';
import type { Landing, MapConditions } from '@/core/map';
import { parseAmount, writeAmount, type Currency, type Minor } from '@/core/money';

/** A rule as the form has it: what is chosen, and texts; lists of words are parted by commas. */
export interface RuleFields {
  name: string;
  active: boolean;
  channels: readonly Named[];
  sites: readonly Named[];
  items: readonly Named[];
  payers: readonly Named[];
  text: string;
  methods: string;
  amountFrom: string;
  amountTo: string;
  countries: string;
  regions: string;
  currencies: string;
  funds: string;
  income: string;
  taxCode: string;
  deposit: string;
  fees: string;
  dimensions: Record<string, string>;
}

export function emptyRule(seed: FallenThrough | null, map: Pick<MapPage, 'channels'> = { channels: [] }): RuleFields {
  return {
    name: seed?.text ?? '',
    active: true,
    channels: map.channels.filter(({ id }) => id === seed?.channel),
    sites: [],
    items: [],
    payers: [],
    text: seed?.text ?? '',
    methods: '',
    amountFrom: '',
    amountTo: '',
    countries: '',
    regions: '',
    currencies: '',
    funds: '',
    income: '',
    taxCode: '',
    deposit: '',
    fees: '',
    dimensions: {},
  };
}

const chosen = (ids: readonly number[] | undefined, from: readonly Named[]) =>
  ids?.flatMap((id) => from.find((one) => one.id === id) ?? []) ?? [];
const joined = (list: readonly string[] | undefined) => list?.join(', ') ?? '';
const text = (value: number | undefined) => (value === undefined ? '' : String(value));

export function fieldsOfRule(
  { name, active, conditions: c, landing }: RuleRow,
  map: MapPage,
  currency: Currency,
): RuleFields {
  const amount = (value: Minor | undefined) => (value === undefined ? '' : writeAmount(value, currency));
  return {
    name,
    active,
    channels: chosen(c.channels, map.channels),
    sites: chosen(c.sites, map.sites),
    items: chosen(c.items, map.items),
    payers: chosen(c.payers, map.payers),
    text: c.text ?? '',
    methods: joined(c.methods),
    amountFrom: amount(c.amountFrom),
    amountTo: amount(c.amountTo),
    countries: joined(c.countries),
    regions: joined(c.regions),
    currencies: joined(c.currencies),
    funds: joined(c.funds),
    income: text(landing.income),
    taxCode: text(landing.taxCode),
    deposit: text(landing.deposit),
    fees: text(landing.fees),
    dimensions: Object.fromEntries(Object.entries(landing.dimensions ?? {}).map(([id, value]) => [id, String(value)])),
  };
}

const ids = (list: readonly Named[]) => (list.length === 0 ? undefined : list.map(({ id }) => id));
const several = (field: string) => {
  const list = field
    .split(',')
    .map((word) => word.trim())
    .filter(Boolean);
  return list.length === 0 ? undefined : list;
};

/** Leaves out what is not given, so that it is neither asked nor decided. */
function given<T extends object>(object: T): T {
  return Object.fromEntries(Object.entries(object).filter(([, value]) => value !== undefined)) as T;
}

/** The rule that the form says, or what is wrong with it in a sentence. */
export function ruleOfFields(
  fields: RuleFields,
  currency: Currency,
): { name: string; active: boolean; conditions: MapConditions; landing: Landing } | { readonly trouble: string } {
  if (fields.name.trim() === '') return { trouble: 'The rule has no name. Give it one that says what it catches.' };
  const amounts: (Minor | undefined)[] = [];
  for (const field of [fields.amountFrom, fields.amountTo]) {
    if (field.trim() === '') amounts.push(undefined);
    else {
      const parsed = parseAmount(field.trim().replace(/,/g, ''), currency);
      if (!parsed.ok) return { trouble: `“${field}” is no amount. Write it like 120.00.` };
      amounts.push(parsed.minor);
    }
  }
  const dimensions = Object.entries(fields.dimensions).flatMap(([id, value]) => (value ? [[id, Number(value)]] : []));
  const number = (field: string) => (field === '' ? undefined : Number(field));
  return {
    name: fields.name.trim(),
    active: fields.active,
    conditions: given<MapConditions>({
      channels: ids(fields.channels),
      sites: ids(fields.sites),
      items: ids(fields.items),
      payers: ids(fields.payers),
      text: fields.text.trim() || undefined,
      methods: several(fields.methods),
      currencies: several(fields.currencies.toUpperCase()),
      amountFrom: amounts[0],
      amountTo: amounts[1],
      countries: several(fields.countries),
      regions: several(fields.regions),
      funds: several(fields.funds),
    }),
    landing: given<Landing>({
      income: number(fields.income) as AccountId | undefined,
      taxCode: number(fields.taxCode),
      deposit: number(fields.deposit) as AccountId | undefined,
      fees: number(fields.fees) as AccountId | undefined,
      dimensions: dimensions.length > 0 ? (Object.fromEntries(dimensions) as Record<number, number>) : undefined,
    }),
  };
}
