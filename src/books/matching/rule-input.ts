import { z } from 'zod';
import { LONGEST_PATTERN, type RuleConditions, type RuleResult, type StatementRule } from '@/core/matching';
import type { Minor } from '@/core/money';

const minorUnits = z.custom<Minor>((value) => Number.isSafeInteger(value) && (value as number) >= 0, 'an amount');
const conditionsInput: z.ZodType<RuleConditions, unknown> = z.object({
  texts: z
    .array(
      z.object({
        how: z.enum(['contains', 'words', 'number', 'pattern']),
        text: z.string().trim().min(1).max(LONGEST_PATTERN),
      }),
    )
    .max(8),
  accounts: z.array(z.number().int()).max(50).optional(),
  sign: z.enum(['in', 'out']).optional(),
  amountFrom: minorUnits.optional(),
  amountTo: minorUnits.optional(),
});
const resultInput: z.ZodType<RuleResult, unknown> = z.object({
  account: z.number().int(),
  dimensions: z.record(z.coerce.number().int().positive(), z.number().int().positive()),
  taxCode: z.number().int().nullable(),
  payer: z.number().int().nullable().default(null),
  byNumber: z
    .array(z.object({ number: z.string().trim().regex(/\d/, 'a number').max(40), account: z.number().int() }))
    .max(50)
    .default([]),
});

export const ruleInput = z.object({
  /** Null makes a new rule. */
  id: z.number().int().nullable(),
  name: z.string().trim().min(1).max(80),
  active: z.boolean(),
  conditions: conditionsInput,
  result: resultInput,
});
export type StatementRuleInput = z.infer<typeof ruleInput>;

/** A rule as it is kept. */
export function ruleOf(row: { id: number; name: string; conditions: string; result: string }): StatementRule {
  return {
    id: row.id,
    name: row.name,
    conditions: conditionsInput.parse(JSON.parse(row.conditions)),
    result: resultInput.parse(JSON.parse(row.result)),
  };
}
