import { z } from 'zod';
import { addDays, formatDate, type PlainDate } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { isLastOfMonth, periodsUntil, PLAN_INTERVALS, priceOn, prorated, type Period, type Recurrence } from '@/core/receivables'; // prettier-ignore
import { plural } from '@/core/words';
import { done, refusalWords, refuse, type Command, type CommandContext, type Undo } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { todayOf } from '../setup/today';
import type { Reading, Writing } from '../store';
import { amountInput, billInput, textInput, type BillInput } from './bill-input';
import { issueBill } from './issue';
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
  .refine(({ starts, ends }) => ends === null || ends >= starts, { path: ['ends'], message: 'a day on or after its start' })
  .refine(({ starts, lastDay }) => !lastDay || isLastOfMonth(starts), { path: ['starts'], message: 'the last day of a month' })
  .refine(({ pausedFrom, resumes }) => resumes === null || (pausedFrom !== null && resumes > pausedFrom), { path: ['resumes'], message: 'a day after the pause began' }); // prettier-ignore

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
      return done({ plan: made.id }, `Made plan ${name}`, { command: 'remove-plan', input: { plan: made.id }, label: `remove plan ${name}` }); // prettier-ignore
    }
    const before = await findPlan(db, plan);
    if (!before) return refuse({ code: 'not-found', what: 'plan', id: String(plan) });
    await db.updateTable('plan').set(row).where('id', '=', plan).execute();
    const { id: _id, payer: _payer, active: _active, billsFrom: _from, ...was } = before;
    return done({ plan }, `Changed plan ${name}`, { command: 'save-plan', input: { plan, ...was }, label: `set plan ${name} back` }); // prettier-ignore
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
    return done(null, `Removed plan ${row.name}`, { command: 'save-plan', input: { ...was, plan: null }, label: `make plan ${row.name} again` }); // prettier-ignore
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

/** What a plan bills for a period: its lines at the price of then, in part where the period is cut short. */
export function billFor(plan: Pick<Plan, 'bill' | 'prices'>, period: Period, issued: PlainDate): BillInput {
  const span = `${formatDate(period.from)} to ${formatDate(period.to)}`;
  return {
    ...plan.bill,
    issued,
    due: null,
    note: [plan.bill.note, `For ${span}.`].filter(Boolean).join('\n'),
    lines: plan.bill.lines.map((line, index) => {
      const price = priceOn(plan.prices.filter((change) => change.line === index), line.price, period.from); // prettier-ignore
      return { ...line, price: prorated(price, period) };
    }),
  };
}

export interface ComingRun {
  readonly from: PlainDate;
  readonly to: PlainDate;
  readonly days: number;
  readonly of: number;
  readonly gross: Minor;
  /** The invoice, where it was billed already. */
  readonly invoice: { readonly id: number; readonly number: string } | null;
}

/** The runs of a plan from a day on, with what each will come to: twelve of them. */
export async function comingRuns(
  db: Reading,
  plan: Pick<Plan, 'bill' | 'prices' | 'recurrence'> & { readonly id: number | null },
  from: PlainDate,
  count = 12,
): Promise<ComingRun[]> {
  const periods = periodsUntil(plan.recurrence, addDays(from, 366 * (count + 1))).filter(
    (period) => period.from >= from,
  );
  const billed = new Map(
    (plan.id === null
      ? []
      : await db
          .selectFrom('plan_run')
          .innerJoin('invoice', 'invoice.id', 'plan_run.invoice_id')
          .select(['period_from as from', 'invoice.id', 'invoice.number'])
          .where('plan_id', '=', plan.id)
          .execute()
    ).map((row) => [row.from, { id: row.id, number: row.number }]),
  );
  const runs: ComingRun[] = [];
  for (const period of periods.slice(0, count)) {
    const worked = await workOut(db, billFor(plan, period, period.from));
    const gross = 'refusal' in worked ? (0 as Minor) : worked.gross;
    runs.push({ ...period, gross, invoice: billed.get(period.from) ?? null });
  }
  return runs;
}

export interface PlansRun {
  readonly issued: readonly { readonly invoice: number; readonly number: string; readonly gross: Minor; readonly sends: boolean }[]; // prettier-ignore
  /** Plans that could not bill, and why. */
  readonly failed: readonly { readonly plan: string; readonly why: string }[];
}

async function runPlan(tx: Writing, plan: Plan, until: PlainDate, closed: PlainDate | null, context: CommandContext) {
  const issued: { invoice: number; number: string; gross: Minor; sends: boolean }[] = [];
  const { rows } = {
    rows: await tx.db.selectFrom('plan_run').select('period_from').where('plan_id', '=', plan.id).execute(),
  };
  const done = new Set(rows.map((row) => row.period_from));
  for (const period of periodsUntil(plan.recurrence, until)) {
    if (period.from < plan.billsFrom || done.has(period.from)) continue;
    // A period that was missed and is closed by now is billed today.
    const day = closed !== null && period.from <= closed ? until : period.from;
    const made = await issueBill(tx, billFor(plan, period, day), context);
    if ('refusal' in made) return { issued, failed: { plan: plan.name, why: refusalWords(made.refusal).what } };
    await tx.db
      .insertInto('plan_run')
      .values({ plan_id: plan.id, period_from: period.from, invoice_id: made.invoice })
      .execute();
    issued.push({ invoice: made.invoice, number: made.number, gross: made.gross, sends: plan.sends });
  }
  return { issued, failed: null };
}

/** Issues what plans that are on bill up to today. Each period is billed once; one that was missed is caught up on. */
export const runPlans: Command<{ plan: number | null }, PlansRun> = {
  name: 'run-plans',
  input: z.object({ plan: z.number().int().nullable() }),
  async run(tx, { plan: only }, context) {
    const { db } = tx;
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const today = todayOf(books, context.now);
    const ids = await db.selectFrom('plan').select('id').where('active', '=', 1).orderBy('id').execute();
    const issued: PlansRun['issued'][number][] = [];
    const failed: PlansRun['failed'][number][] = [];
    for (const { id } of ids) {
      if (only !== null && id !== only) continue;
      const ran = await runPlan(tx, (await findPlan(db, id))!, today, books.closed_through, context);
      issued.push(...ran.issued);
      if (ran.failed) failed.push(ran.failed);
    }
    if (issued.length === 0) return done({ issued, failed }, null);
    const undos = issued.map(({ invoice }): Undo => ({ command: 'credit-invoice', input: { invoice, lines: null, why: 'Billed by mistake', issued: null }, label: '' })); // prettier-ignore
    const total = issued.reduce((all, { gross }) => all + gross, 0) as Minor;
    return done(
      { issued, failed },
      `Billed ${plural(issued.length, 'invoice')} by plan, ${formatAmount(total, books.currency)}`,
      { command: 'undo-many', input: undos, label: `void ${plural(issued.length, 'invoice')}` },
    );
  },
};

export interface PlanRow {
  readonly id: number;
  readonly name: string;
  readonly payer: string;
  readonly every: Recurrence['every'];
  readonly active: boolean;
  readonly next: ComingRun | null;
  readonly due: number;
}

/** All plans with what comes next of each, and how many runs are due and not billed. */
export async function listPlans(db: Reading, today: PlainDate): Promise<PlanRow[]> {
  const rows = await db
    .selectFrom('plan')
    .innerJoin('payer', 'payer.id', 'plan.payer_id')
    .select(['plan.id', 'payer.name as payer'])
    .orderBy('plan.name')
    .execute();
  const list: PlanRow[] = [];
  for (const { id, payer } of rows) {
    const plan = (await findPlan(db, id))!;
    const runs = await comingRuns(db, plan, plan.billsFrom, 60);
    const open = runs.filter((run) => run.invoice === null);
    list.push({
      id,
      name: plan.name,
      payer,
      every: plan.recurrence.every,
      active: plan.active,
      next: open[0] ?? null,
      due: plan.active ? open.filter((run) => run.from <= today).length : 0,
    });
  }
  return list;
}
