import { z } from 'zod';
import type { AccountId } from '@/core/ledger';
import type { Minor } from '@/core/money';

/** Some of a line, booked straight to an account. */
export const accountPartInput = z.object({
  kind: z.literal('account'),
  id: z.custom<AccountId>((v) => Number.isSafeInteger(v), 'an account'),
  amount: z.custom<Minor>((v) => Number.isSafeInteger(v) && v !== 0, 'an amount other than nothing'),
  /** Value by dimension. */
  dimensions: z.record(z.coerce.number().int().positive(), z.number().int().positive()).default({}),
  taxCode: z.number().int().nullable().default(null),
  /** The statement rule that said so. */
  rule: z.string().max(80).nullable().default(null),
  ruleId: z.number().int().nullable().default(null),
  /** Whose money it is. */
  payer: z.number().int().nullable().default(null),
});

/** What a user lays on the working sheet. An invoice says how much of it, minor units. */
export const partInput = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('payout'), id: z.number().int() }),
  z.object({ kind: z.literal('receipt'), id: z.number().int() }),
  /** Another statement line that belongs to this one. */
  z.object({ kind: z.literal('line'), id: z.number().int() }),
  z.object({
    kind: z.literal('invoice'),
    id: z.number().int(),
    amount: z.custom<Minor>((v) => Number.isSafeInteger(v) && (v as number) > 0, 'an amount above zero'),
  }),
  accountPartInput,
]);
export type PartInput = z.infer<typeof partInput>;
export type AccountPartInput = z.infer<typeof accountPartInput>;
