import type { MapPage } from '@/books/map/map-page';
import type { Landing, MapConditions, MapField, RuleTrouble } from '@/core/map';
import type { Minor } from '@/core/money';

const listed = (words: readonly string[]) =>
  words.length < 3 ? words.join(' or ') : `${words.slice(0, -1).join(', ')} or ${words.at(-1)}`;

const namesOf = (list: readonly { readonly id: number; readonly name: string }[], ids: readonly number[]) =>
  listed(ids.map((id) => list.find((one) => one.id === id)?.name ?? 'one that is gone'));

/** When a rule applies, in words: one phrase for each condition. */
export function conditionWords(conditions: MapConditions, map: MapPage, money: (amount: Minor) => string): string[] {
  const { channels, sites, items, payers, text, methods, currencies, countries, regions, funds } = conditions;
  const { amountFrom, amountTo } = conditions;
  const phrases = [
    channels && `channel ${namesOf(map.channels, channels)}`,
    sites && `site ${namesOf(map.sites, sites)}`,
    items && `item ${namesOf(map.items, items)}`,
    payers && `payer ${namesOf(map.payers, payers)}`,
    text && `text has “${text}”`,
    methods && `paid by ${listed(methods)}`,
    currencies && `in ${listed(currencies)}`,
    amountFrom !== undefined && amountTo !== undefined
      ? `${money(amountFrom)} to ${money(amountTo)}`
      : amountFrom !== undefined
        ? `from ${money(amountFrom)}`
        : amountTo !== undefined && `up to ${money(amountTo)}`,
    countries && `sent to ${listed(countries)}`,
    regions && `region ${listed(regions)}`,
    funds && `fund ${listed(funds)}`,
  ];
  const said = phrases.filter((phrase): phrase is string => Boolean(phrase));
  return said.length === 0 ? ['every receipt'] : said;
}

/** The name behind a decided id: an account, a tax code, or a value of a dimension. */
export function valueName(field: MapField, value: number | null, map: MapPage): string {
  if (value === null) return 'nothing';
  if (field === 'taxCode') return map.taxCodes.find((tax) => tax.id === value)?.name ?? '?';
  if (!field.startsWith('dimension:')) return map.accounts.find((account) => account.id === value)?.name ?? '?';
  const dimension = map.dimensions.find((one) => one.id === Number(field.slice('dimension:'.length)));
  return `${dimension?.name ?? '?'} ${dimension?.values.find((one) => one.id === value)?.name ?? '?'}`;
}

/** What a rule decides, in words: one phrase for each decision. */
export function landingWords(landing: Landing, map: MapPage): string[] {
  return [
    landing.income === undefined ? '' : valueName('income', landing.income, map),
    landing.taxCode === undefined ? '' : `tax ${valueName('taxCode', landing.taxCode, map)}`,
    landing.deposit === undefined ? '' : `deposited in ${valueName('deposit', landing.deposit, map)}`,
    landing.fees === undefined ? '' : `fee to ${valueName('fees', landing.fees, map)}`,
    ...Object.entries(landing.dimensions ?? {}).map(([id, value]) => valueName(`dimension:${Number(id)}`, value, map)),
  ].filter(Boolean);
}

export function troubleWords(trouble: RuleTrouble, map: MapPage): string {
  const name = (id: number) => map.rules.find((rule) => rule.id === id)?.name ?? 'this rule';
  switch (trouble.kind) {
    case 'never-applies':
      return trouble.condition === 'amount'
        ? 'never applies: its lower amount is above its upper one'
        : 'never applies: one of its lists is empty';
    case 'shadowed':
      return `decides nothing: “${name(trouble.by)}” comes first and takes all of it`;
    case 'decides-nothing':
      return 'decides nothing: choose where it lands';
  }
}
