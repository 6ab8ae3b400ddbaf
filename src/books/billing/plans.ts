import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import type { Minor } from '@/core/money';
import { isLastOfMonth, PLAN_INTERVALS, type Recurrence } from '@/core/receivables';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import type { Reading } from '../store';
import { amountInput, billInput, textInput, type BillInput } from './bill-input';
import { workOut } from './work-out';

/** A price of a line that holds from a day on. Lines count from 0. */
export interface PriceChange {
  line: number;
  from: PlainDate;
  price: Minor;
}

export interface PlanInput {
  plan: number | null;
  name: string;
  bill: BillInput;
  recurrence: Recurrence;
  prices: PriceChange[];
  /** Mails each invoice once it is issued. */
  sends: boolean;
}

const recurrenceInput = z
  .object({
    every: z.enum(PLAN_INTERVALS),
    starts: plainDateInput,
    lastDay: z.boolean(),
    ends: plainDateInput.nullable(),
    pausedFrom: plainDateInput.nullable(),
    resumes: plainDateInput.nullable(),
    prorates: z.boolean(),
  })
  .refine(({ starts, ends }) => ends === null || ends >= starts, {
    path: ['ends'],
    message: 'a day on or after its start',
  })
  .refine(({ starts, lastDay }) => !lastDay || isLastOfMonth(starts), {
    path: ['starts'],
    message: 'the last day of a month',
  })
  .refine(({ pausedFrom, resumes }) => resumes === null || (pausedFrom !== null && resumes > pausedFrom), {
    path: ['resumes'],
    message: 'a day after the pause began',
  });

const planInput = z.object({
  plan: z.number().int().positive().nullable(),
  name: textInput(120).pipe(z.string().min(1, 'a name')),
  bill: billInput,
  recurrence: recurrenceInput,
  prices: z.array(z.object({ line: z.number().int().min(0), from: plainDateInput, price: amountInput })).max(100),
  sends: z.boolean(),
});

interface PlanContent {
  readonly bill: BillInput;
  readonly prices: readonly PriceChange[];
}

export interface Plan {
  readonly id: number;
  readonly name: string;
  readonly payer: number;
  readonly bill: BillInput;
  readonly prices: readonly PriceChange[];
  readonly recurrence: Recurrence;
  readonly active: boolean;
  readonly billsFrom: PlainDate;
  readonly sends: boolean;
}

export async function findPlan(db: Reading, id: number): Promise<Plan | null> {
  const row = await db.selectFrom('plan').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return null;
  const content = JSON.parse(row.content) as PlanContent;
  return {
    id,
    name: row.name,
    payer: row.payer_id,
    ...content,
    recurrence: JSON.parse(row.recurrence) as Recurrence,
    active: row.active === 1,
    billsFrom: row.bills_from,
    sends: row.sends === 1,
  };
}

/** Keeps a plan; a new one is off until its runs were looked at. What was billed already stays as it is. */
export const savePlan: Command<PlanInput, { plan: number }> = {
  name: 'save-plan',
  input: planInput,
  async run({ db }, { plan, name, bill, recurrence, prices, sends }, { now, actor }) {
    if (bill.payer === null) return refuse({ code: 'invalid-input', field: 'payer', expected: 'somebody who owes it' });
    const worked = await workOut(db, bill);
    if ('refusal' in worked) return worked;
    const row = {
      name,
      payer_id: bill.payer,
      content: JSON.stringify({ bill, prices } satisfies PlanContent),
      recurrence: JSON.stringify(recurrence),
      sends: sends ? (1 as const) : (0 as const),
      changed_at: now.toISOString(),
      actor: actor.name,
    };
    if (plan === null) {
      const made = await db
        .insertInto('plan')
        .values({ ...row, active: 0, bills_from: recurrence.starts })
        .returning('id')
        .executeTakeFirstOrThrow();
      return done({ plan: made.id }, `Made plan ${name}`, {
        command: 'remove-plan',
        input: { plan: made.id },
        label: `remove plan ${name}`,
      });
    }
    const before = await findPlan(db, plan);
    if (!before) return refuse({ code: 'not-found', what: 'plan', id: String(plan) });
    await db.updateTable('plan').set(row).where('id', '=', plan).execute();
    const { id: _id, payer: _payer, active: _active, billsFrom: _from, ...was } = before;
    return done({ plan }, `Changed plan ${name}`, {
      command: 'save-plan',
      input: { plan, ...was },
      label: `set plan ${name} back`,
    });
  },
};

/** Removes a plan that has billed nothing. */
export const removePlan: Command<{ plan: number }, null> = {
  name: 'remove-plan',
  input: z.object({ plan: z.number().int() }),
  async run({ db }, { plan }) {
    const row = await findPlan(db, plan);
    if (!row) return refuse({ code: 'not-found', what: 'plan', id: String(plan) });
    const billed = await db.selectFrom('plan_run').select('invoice_id').where('plan_id', '=', plan).executeTakeFirst();
    if (billed) return refuse({ code: 'in-use', what: 'plan', name: row.name });
    await db.deleteFrom('plan').where('id', '=', plan).execute();
    const { id: _id, payer: _payer, active: _active, billsFrom: _from, ...was } = row;
    return done(null, `Removed plan ${row.name}`, {
      command: 'save-plan',
      input: { ...was, plan: null },
      label: `make plan ${row.name} again`,
    });
  },
};

/** Switches a plan on or off. Periods that began before `billsFrom` are not billed. */
export const switchPlan: Command<{ plan: number; on: boolean; billsFrom: PlainDate | null }, null> = {
  name: 'switch-plan',
  input: z.object({ plan: z.number().int(), on: z.boolean(), billsFrom: plainDateInput.nullable() }),
  async run({ db }, { plan, on, billsFrom }) {
    const row = await findPlan(db, plan);
    if (!row) return refuse({ code: 'not-found', what: 'plan', id: String(plan) });
    const from = billsFrom ?? row.billsFrom;
    if (row.active === on && from === row.billsFrom) return done(null, null);
    await db
      .updateTable('plan')
      .set({ active: on ? 1 : 0, bills_from: from })
      .where('id', '=', plan)
      .execute();
    return done(null, `Switched plan ${row.name} ${on ? 'on' : 'off'}`, {
      command: 'switch-plan',
      input: { plan, on: row.active, billsFrom: row.billsFrom },
      label: `switch plan ${row.name} ${row.active ? 'on' : 'off'}`,
    });
  },
};
