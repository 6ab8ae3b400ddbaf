import { fieldsOf, type MapConditions, type MapRule } from './rule';

/** What is wrong with a rule as it stands among the others. */
export type RuleTrouble =
  /** Its own conditions contradict each other. */
  | { readonly kind: 'never-applies'; readonly rule: number; readonly condition: 'amount' | 'empty-list' }
  /** An earlier rule takes all that it would decide. */
  | { readonly kind: 'shadowed'; readonly rule: number; readonly by: number }
  /** It decides nothing. */
  | { readonly kind: 'decides-nothing'; readonly rule: number };

const LISTS = [
  'channels',
  'sites',
  'payers',
  'items',
  'methods',
  'currencies',
  'countries',
  'regions',
  'funds',
] as const;

const key = (value: string | number) => (typeof value === 'string' ? value.toLowerCase() : value);

/** Whether whatever the narrow conditions let through, the wide ones let through too. */
export function implies(narrow: MapConditions, wide: MapConditions): boolean {
  for (const list of LISTS) {
    const allowed = wide[list];
    if (allowed === undefined) continue;
    const asked = narrow[list];
    if (asked === undefined) return false;
    const keys = new Set<string | number>([...allowed].map(key));
    if (![...asked].every((value) => keys.has(key(value)))) return false;
  }
  if (wide.text !== undefined && !narrow.text?.toLowerCase().includes(wide.text.toLowerCase())) return false;
  if ((wide.amountFrom ?? 0) > (narrow.amountFrom ?? 0)) return false;
  return (wide.amountTo ?? Infinity) >= (narrow.amountTo ?? Infinity);
}

/** Points out rules that can never apply, decide nothing, or are wholly covered by one earlier rule. */
export function reviewRules(rules: readonly MapRule[]): RuleTrouble[] {
  return rules.flatMap((rule, index): RuleTrouble[] => {
    const { conditions, landing } = rule;
    const decides = [...fieldsOf(landing).keys()];
    if (decides.length === 0) return [{ kind: 'decides-nothing', rule: rule.id }];
    if ((conditions.amountFrom ?? 0) > (conditions.amountTo ?? Infinity)) {
      return [{ kind: 'never-applies', rule: rule.id, condition: 'amount' }];
    }
    if (LISTS.some((list) => conditions[list]?.length === 0)) {
      return [{ kind: 'never-applies', rule: rule.id, condition: 'empty-list' }];
    }
    const cover = rules.slice(0, index).find((earlier) => {
      const taken = fieldsOf(earlier.landing);
      return decides.every((field) => taken.has(field)) && implies(conditions, earlier.conditions);
    });
    return cover ? [{ kind: 'shadowed', rule: rule.id, by: cover.id }] : [];
  });
}
