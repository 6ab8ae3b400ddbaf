import { z } from 'zod';
import { addDays, formatDate, type PlainDate } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { periodsUntil, priceOn, prorated, type Period } from '@/core/receivables';
import { plural } from '@/core/words';
import { done, refusalWords, type Command, type CommandContext, type Undo } from '../command';
import { todayOf } from '../setup/today';
import type { Reading, Writing } from '../store';
import type { BillInput } from './bill-input';
import { issueBill } from './issue';
import { findPlan, type Plan } from './plans';
import { workOut } from './work-out';

/** What a plan bills for a period: its lines at the price of then, in part where the period is cut short. */
export function billFor(plan: Pick<Plan, 'bill' | 'prices'>, period: Period, issued: PlainDate): BillInput {
  const span = `${formatDate(period.from)} to ${formatDate(period.to)}`;
  return {
    ...plan.bill,
    issued,
    due: null,
    note: [plan.bill.note, `For ${span}.`].filter(Boolean).join('\n'),
    lines: plan.bill.lines.map((line, index) => {
      const price = priceOn(
        plan.prices.filter((change) => change.line === index),
        line.price,
        period.from,
      );
      return { ...line, price: prorated(price, period) };
    }),
  };
}

/** A period of a plan and what it will come to, in minor units of the books' currency. */
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

/** What billing by plan came to. */
export interface PlansRun {
  readonly issued: readonly {
    readonly invoice: number;
    readonly number: string;
    readonly gross: Minor;
    readonly sends: boolean;
  }[];
  /** Plans that could not bill, and why. */
  readonly failed: readonly { readonly plan: string; readonly why: string }[];
}

async function runPlan(tx: Writing, plan: Plan, until: PlainDate, closed: PlainDate | null, context: CommandContext) {
  const issued: { invoice: number; number: string; gross: Minor; sends: boolean }[] = [];
  const before = await tx.db.selectFrom('plan_run').select('period_from').where('plan_id', '=', plan.id).execute();
  const billed = new Set(before.map((row) => row.period_from));
  for (const period of periodsUntil(plan.recurrence, until)) {
    if (period.from < plan.billsFrom || billed.has(period.from)) continue;
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
    const undos = issued.map(({ invoice }): Undo => ({
      command: 'credit-invoice',
      input: { invoice, lines: null, why: 'Billed by mistake', issued: null },
      label: '',
    }));
    const total = issued.reduce((all, { gross }) => all + gross, 0) as Minor;
    return done(
      { issued, failed },
      `Billed ${plural(issued.length, 'invoice')} by plan, ${formatAmount(total, books.currency)}`,
      { command: 'undo-many', input: undos, label: `void ${plural(issued.length, 'invoice')}` },
    );
  },
};
