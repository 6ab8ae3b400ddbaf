import { z } from 'zod';
import { parsePlainDate, type PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';

/** Rows on one page of a list. */
export const PAGE_SIZE = 50;

/** Where a page of a list ordered by date and id ends. */
export interface Cursor {
  readonly date: PlainDate;
  readonly id: number;
}

export interface Page<Row, Totals> {
  readonly rows: readonly Row[];
  /** For the next page; null on the last. */
  readonly next: string | null;
  /** Of all that the filter shows, not of this page. */
  readonly totals: Totals;
}

export interface CountAndAmount {
  readonly count: number;
  /** Minor units. */
  readonly amount: Minor;
}

/** A cursor as it stands in an address: 2026-11-09_123. Anything else is the first page. */
export const cursorParam = z
  .string()
  .optional()
  .transform((text): Cursor | null => {
    const [day = '', id = ''] = text?.split('_') ?? [];
    const date = parsePlainDate(day);
    return date !== null && /^\d{1,15}$/.test(id) ? { date, id: Number(id) } : null;
  });

/** Cuts what was fetched (one more than a page) to a page and says where the next begins. */
export function cut<Row extends { readonly id: number; readonly date: PlainDate }>(
  rows: Row[],
  size = PAGE_SIZE,
): { readonly rows: Row[]; readonly next: string | null } {
  if (rows.length <= size) return { rows, next: null };
  const page = rows.slice(0, size);
  const last = page.at(-1)!;
  return { rows: page, next: `${last.date}_${last.id}` };
}
