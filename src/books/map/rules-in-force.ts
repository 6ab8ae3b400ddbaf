import type { Landing, MapRule } from '@/core/map';
import type { Reading } from '../store';

/** The rules that are switched on, in their order. */
export async function rulesInForce(db: Reading): Promise<MapRule[]> {
  const rows = await db.selectFrom('map_rule').selectAll().where('active', '=', 1).orderBy('position').execute();
  return rows.map(ruleOf);
}

/** A rule as it is kept, read. */
export function ruleOf(row: { id: number; name: string; conditions: string; landing: string }): MapRule {
  return {
    id: row.id,
    name: row.name,
    conditions: JSON.parse(row.conditions) as MapRule['conditions'],
    landing: JSON.parse(row.landing) as Landing,
  };
}
