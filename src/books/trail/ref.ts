import { z } from 'zod';

/** Where a trail can be entered: an invoice, receipt, payout, statement line or journal. */
export const trailRef = z
  .string()
  .regex(/^(invoice|receipt|payout|line|journal):\d{1,15}$/)
  .transform((text) => {
    const [kind, id] = text.split(':') as [TrailKind, string];
    return { kind, id: Number(id) };
  });

export type TrailKind = 'invoice' | 'receipt' | 'payout' | 'line' | 'journal';
export type TrailRef = `${TrailKind}:${number}`;
