import type { PlainDate } from '../calendar';
import type { BasisPoints, Minor } from '../money';
import { feeOf, type FeeSchedule } from './fee-schedule';
import { roundness } from './learn-fees';

/** Receipts of which the fee is known only together: those of one payout, or of one deposit that was confirmed. */
export interface ChargedSum {
  /** With the day of each and what the channel held of it, minor units. */
  readonly receipts: readonly { readonly day: PlainDate; readonly gross: Minor }[];
  /** What was taken of all of them, minor units. */
  readonly fee: Minor;
}

/** A schedule that what was charged since a day fits, and how much of it does. */
export interface LearntStep {
  readonly since: PlainDate;
  readonly schedule: FeeSchedule;
  /** How many sums fit to the cent, of how many since then and before the next change. */
  readonly fit: number;
  readonly of: number;
}

/** So many sums tell a change by a rate that people agree on; any other rate needs more, and all of them. */
const FEWEST = 4;
const FEWEST_UNROUND = 6;
/** Sums a schedule is learnt of: those that follow the change. */
const LOOKED_AT = 8;
/** A rate that people agree on, in basis points. */
const ROUND_RATE = 5;
/** Rates that are tried, in basis points, and amounts around the one that goes with a rate, in minor units. */
const HIGHEST_RATE = 1_000;
const FIXED_AROUND = 3;

const total = ({ receipts }: ChargedSum, schedule: FeeSchedule): number =>
  receipts.reduce((sum, { gross }) => sum + feeOf(gross, schedule), 0);

const fits = (sum: ChargedSum, schedule: FeeSchedule) => total(sum, schedule) === sum.fee;

const lastDay = ({ receipts }: ChargedSum) =>
  receipts.reduce((last, { day }) => (day > last ? day : last), receipts[0]!.day);
const daysOf = ({ receipts }: ChargedSum) => [...new Set(receipts.map(({ day }) => day))].sort();

/** A sum with what a schedule comes to before each fee is rounded. */
interface Measured {
  readonly sum: ChargedSum;
  readonly gross: number;
  readonly count: number;
}

function measured(sum: ChargedSum): Measured {
  const charged = sum.receipts.filter(({ gross }) => gross > 0);
  return { sum, gross: charged.reduce((all, { gross }) => all + gross, 0), count: charged.length };
}

/** Whether fees that are rounded one by one can come to the sum's at all: each is off by half a unit at most. */
const near = ({ sum, gross, count }: Measured, { rate, fixed }: FeeSchedule) =>
  Math.abs((gross * rate) / 10_000 + count * fixed - sum.fee) <= count / 2;

/** How many of these a schedule fits; nothing is counted on once a second one is missed. */
function fitting(sums: readonly Measured[], test: (one: Measured) => boolean): number {
  let missed = 0;
  for (const one of sums) if (!test(one) && ++missed > 1) return 0;
  return sums.length - missed;
}

/**
 * The schedule that these sums were charged by: to each rate there is one amount that gives what they come to in all. Of those
 * that are exact to the cent the rounder one, as sums that are alike leave a schedule undetermined.
 */
function scheduleOf(sums: readonly ChargedSum[]): { readonly schedule: FeeSchedule; readonly fit: number } | null {
  const all = sums.map(measured);
  const [gross, count, fee] = [
    all.reduce((sum, one) => sum + one.gross, 0),
    all.reduce((sum, one) => sum + one.count, 0),
    sums.reduce((sum, one) => sum + one.fee, 0),
  ];
  let best: { schedule: FeeSchedule; fit: number } | null = null;
  for (let rate = 0; rate <= HIGHEST_RATE; rate++) {
    const middle = Math.round((fee - (gross * rate) / 10_000) / count);
    const round = rate % ROUND_RATE === 0;
    for (let fixed = Math.max(0, middle - FIXED_AROUND); fixed <= middle + FIXED_AROUND; fixed++) {
      const schedule = { rate: rate as BasisPoints, fixed: fixed as Minor };
      const enough = (fit: number) =>
        round ? fit >= FEWEST && fit >= sums.length - 1 : fit >= FEWEST_UNROUND && fit === sums.length;
      if (!enough(fitting(all, (one) => near(one, schedule)))) continue;
      const fit = fitting(all, ({ sum }) => fits(sum, schedule));
      if (!enough(fit)) continue;
      if (best === null || fit > best.fit || (fit === best.fit && roundness(schedule) > roundness(best.schedule)))
        best = { schedule, fit };
    }
  }
  return best;
}

/** The first day of a sum, after this one, from which on the new schedule gives its fee, the old one before it; null where none does. */
function dayWithin(sum: ChargedSum, last: PlainDate | null, before: FeeSchedule, after: FeeSchedule): PlainDate | null {
  const charged = (since: PlainDate) =>
    sum.receipts.reduce((fee, { day, gross }) => fee + feeOf(gross, day < since ? before : after), 0);
  const found = daysOf(sum).filter((since) => charged(since) === sum.fee);
  // What came before it was as agreed to its last day, so the change came later than that.
  return found.find((since) => last === null || since > last) ?? found[0] ?? null;
}

/**
 * When a channel that states no fee of a receipt began to charge otherwise, and by which schedule: where what it took of several
 * receipts together is known. A single sum that is otherwise is no change; neither is what no one schedule gives to the cent.
 * @param first what is in force before the first of the sums.
 */
export function learnSteps(all: readonly ChargedSum[], first: FeeSchedule): LearntStep[] {
  const sums = all.filter(({ receipts }) => receipts.some(({ gross }) => gross > 0));
  sums.sort((a, b) => (lastDay(a) < lastDay(b) ? -1 : 1));
  const steps: LearntStep[] = [];
  let current = first;
  for (let at = 0; at + FEWEST <= sums.length; at++) {
    if (fits(sums[at]!, current)) continue;
    const after = sums.slice(at, at + LOOKED_AT);
    // A channel that rounds once a payout is a little off every receipt's own rounding: that is no other schedule.
    if (after.filter((sum) => !near(measured(sum), current)).length < FEWEST - 1) continue;
    // The first may be of both, and what follows may be changed again: without the one, and with the fewest, it is tried too.
    const found = scheduleOf(after) ?? scheduleOf(after.slice(1)) ?? scheduleOf(after.slice(0, FEWEST + 1));
    if (!found || (found.schedule.rate === current.rate && found.schedule.fixed === current.fixed)) continue;
    const [changed, next] = [sums[at]!, sums[at + 1]!];
    const asAgreed = at > 0 && fits(sums[at - 1]!, current) ? lastDay(sums[at - 1]!) : null;
    const since = dayWithin(changed, asAgreed, current, found.schedule) ?? daysOf(next)[0]!;
    current = found.schedule;
    // All that follows until it fits no more for longer than a single sum.
    let end = at + 1;
    while (end < sums.length && (fits(sums[end]!, current) || (end + 1 < sums.length && fits(sums[end + 1]!, current))))
      end++;
    const held = sums.slice(at, end);
    steps.push({ since, schedule: current, fit: held.filter((sum) => fits(sum, current)).length, of: held.length });
    at = end - 1;
  }
  return steps;
}
