import type { PlainDate } from '@/core/calendar';
import type { Recurrence } from '@/core/receivables';
import type { Reading } from '../store';
import { comingRuns, type ComingRun } from './plan-runs';
import { findPlan } from './plans';

/** A plan in the list of plans, with the next run that is not billed and how many are due. */
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
