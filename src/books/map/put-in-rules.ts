import type { Reading } from '../store';

/** Map rules that ask for a payer or an item ask for the one that took its place; gives how they were, for the way back. */
export async function putInRules(
  db: Reading,
  field: 'payers' | 'items',
  from: number,
  into: number,
): Promise<{ id: number; conditions: string }[]> {
  const before: { id: number; conditions: string }[] = [];
  for (const rule of await db.selectFrom('map_rule').select(['id', 'conditions']).execute()) {
    const conditions = JSON.parse(rule.conditions) as Partial<Record<'payers' | 'items', number[]>>;
    if (!conditions[field]?.includes(from)) continue;
    before.push(rule);
    const now = [...new Set(conditions[field].map((id) => (id === from ? into : id)))];
    await db
      .updateTable('map_rule')
      .set({ conditions: JSON.stringify({ ...conditions, [field]: now }) })
      .where('id', '=', rule.id)
      .execute();
  }
  return before;
}
