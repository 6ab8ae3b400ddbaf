import type { Plan, PlanInput } from '@/books/billing/plans';
import type { BillInput } from '@/books/billing/bill-input';
import { parsePlainDate, type PlainDate } from '@/core/calendar';
import { parseAmount, writeAmount, type Currency } from '@/core/money';
import { isLastOfMonth, type PlanInterval } from '@/core/receivables';

/** What a plan has beside its bill, as it is typed. */
export interface PlanFields {
  name: string;
  every: PlanInterval;
  lastDay: boolean;
  ends: string;
  pausedFrom: string;
  resumes: string;
  prorates: boolean;
  sends: boolean;
  /** One price change a line: "line from price". */
  prices: { line: string; from: string; price: string }[];
}

export const newPlanFields = (today: PlainDate): PlanFields => ({
  name: '',
  every: 'month',
  lastDay: isLastOfMonth(today),
  ends: '',
  pausedFrom: '',
  resumes: '',
  prorates: true,
  sends: false,
  prices: [],
});

export function planFieldsOf(plan: Plan, currency: Currency): PlanFields {
  const { every, lastDay, ends, pausedFrom, resumes, prorates } = plan.recurrence;
  return {
    name: plan.name,
    ...{ every, lastDay, prorates },
    ends: ends ?? '',
    pausedFrom: pausedFrom ?? '',
    resumes: resumes ?? '',
    sends: plan.sends,
    prices: plan.prices.map(({ line, from, price }) => ({
      line: String(line + 1),
      from,
      price: writeAmount(price, currency),
    })),
  };
}

/** A plan as typed, with its bill, or what of it cannot be read. */
export function readPlan(
  plan: number | null,
  fields: PlanFields,
  bill: BillInput,
  currency: Currency,
): { plan: PlanInput } | { fault: string } {
  if (fields.name.trim() === '') return { fault: 'Give the plan a name.' };
  const date = (text: string) => (text === '' ? null : parsePlainDate(text));
  const prices: PlanInput['prices'] = [];
  for (const { line, from, price } of fields.prices) {
    const [day, amount] = [parsePlainDate(from), parseAmount(price.trim(), currency)];
    if (!day || !amount.ok || !/^\d+$/.test(line) || Number(line) < 1 || Number(line) > bill.lines.length) {
      return { fault: 'A price change needs the number of a line, a day and an amount.' };
    }
    prices.push({ line: Number(line) - 1, from: day, price: amount.minor });
  }
  const { every, prorates, sends } = fields;
  return {
    plan: {
      plan,
      name: fields.name,
      bill,
      recurrence: {
        every,
        starts: bill.issued,
        lastDay: fields.lastDay && isLastOfMonth(bill.issued),
        ends: date(fields.ends),
        pausedFrom: date(fields.pausedFrom),
        resumes: date(fields.resumes),
        prorates,
      },
      prices,
      sends,
    },
  };
}
