'use server';

import { comingRuns, runPlans, type ComingRun } from '@/books/billing/plan-runs';
import { removePlan, savePlan, switchPlan, type PlanInput } from '@/books/billing/plans';
import type { PlainDate } from '@/core/calendar';
import { openBooks } from '../../../../server/books';
import { change } from '../../../../server/change';
import { sendPlanned } from '../../../../server/plans';

export const savePlanNow = async (books: string, input: unknown) => change(books, savePlan, input);
export const removePlanNow = async (books: string, plan: number) => change(books, removePlan, { plan });
export const switchPlanNow = async (books: string, input: unknown) => change(books, switchPlan, input);

export async function runPlansNow(books: string, plan: number | null) {
  const answer = await change(books, runPlans, { plan });
  if (answer.ok) await sendPlanned(books, answer.value);
  return answer;
}

/** The twelve runs that a plan would make, as it stands in the form. */
export async function comingNow(books: string, input: PlanInput, from: PlainDate): Promise<ComingRun[]> {
  const read = savePlan.input.safeParse(input);
  if (!read.success) return [];
  const { plan, ...rest } = read.data;
  return openBooks(books).read((db) => comingRuns(db, { ...rest, id: plan }, from));
}
