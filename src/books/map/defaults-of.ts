import type { AccountId } from '@/core/ledger';
import type { Landing } from '@/core/map';
import type { MapDefaultTable } from '../store';

/** What is kept as default of one layer's thing: a channel, an item, a payer, the books. */
export const putDefaults = (rows: readonly MapDefaultTable[], layer: MapDefaultTable['layer'], id: number): Landing => {
  const landing: { -readonly [K in keyof Landing]: Landing[K] } & { dimensions?: Record<number, number> } = {};
  for (const row of rows) {
    if (row.layer !== layer || row.ref_id !== id) continue;
    if (row.field === 'income') landing.income = row.value as AccountId;
    else if (row.field === 'taxCode') landing.taxCode = row.value;
    else if (row.field.startsWith('dimension:')) {
      landing.dimensions = { ...landing.dimensions, [Number(row.field.slice('dimension:'.length))]: row.value };
    }
  }
  return landing;
};

/** One landing over another: the second decides where both do. */
export const merged = (a: Landing, b: Landing): Landing => ({
  ...a,
  ...b,
  ...((a.dimensions || b.dimensions) && { dimensions: { ...a.dimensions, ...b.dimensions } }),
});
