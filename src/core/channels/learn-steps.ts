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
/** Around the plane through the sums, in basis points and minor units. */
const RATE_AROUND = 12;
const FIXED_AROUND = 4;

const total = ({ receipts }: ChargedSum, schedule: FeeSchedule): number =>
  receipts.reduce((sum, { gross }) => sum + feeOf(gross, schedule), 0);

const fits = (sum: ChargedSum, schedule: FeeSchedule) => total(sum, schedule) === sum.fee;

const lastDay = ({ receipts }: ChargedSum) => receipts.reduce((last, { day }) => (day > last ? day : last), receipts[0]!.day); // prettier-ignore
const daysOf = ({ receipts }: ChargedSum) => [...new Set(receipts.map(({ day }) => day))].sort();

/** Rate and fixed amount before they are rounded, by least squares over what the sums are of: gross, and how many. */
function plane(sums: readonly ChargedSum[]): { readonly rate: number; readonly fixed: number } {
  let [gg, gn, nn, gf, nf] = [0, 0, 0, 0, 0];
  for (const { receipts, fee } of sums) {
    const charged = receipts.filter(({ gross }) => gross > 0);
    const gross = charged.reduce((sum, receipt) => sum + receipt.gross, 0);
    const count = charged.length;
    gg += gross * gross;
    gn += gross * count;
    nn += count * count;
    gf += gross * fee;
    nf += count * fee;
  }
  const det = gg * nn - gn * gn;
  // Sums that are all alike tell one figure only: a rate alone.
  if (det <= gg * nn * 1e-9) return { rate: (gf / gg) * 10_000, fixed: 0 };
  return { rate: ((gf * nn - nf * gn) / det) * 10_000, fixed: (nf * gg - gf * gn) / det };
}

/** The schedule that these sums were charged by: near the plane through them, exact to the cent, the rounder one of several. */
function scheduleOf(sums: readonly ChargedSum[]): { readonly schedule: FeeSchedule; readonly fit: number } | null {
  const near = plane(sums);
  const [rate, fixed] = [Math.round(near.rate), Math.round(near.fixed)];
  let best: { schedule: FeeSchedule; fit: number } | null = null;
  for (let r = Math.max(0, rate - RATE_AROUND); r <= rate + RATE_AROUND; r++) {
    for (let f = Math.max(0, fixed - FIXED_AROUND); f <= fixed + FIXED_AROUND; f++) {
      const schedule = { rate: r as BasisPoints, fixed: f as Minor };
      const fit = sums.filter((sum) => fits(sum, schedule)).length;
      const round = r % ROUND_RATE === 0;
      const enough = round ? fit >= FEWEST && fit >= sums.length - 1 : fit >= FEWEST_UNROUND && fit === sums.length;
      if (!enough) continue;
      if (best === null || fit > best.fit || (fit === best.fit && roundness(schedule) > roundness(best.schedule))) best = { schedule, fit }; // prettier-ignore
    }
  }
  return best;
}

/** The first day of a sum from which on the new schedule gives its fee, the old one before it; null where none does. */
function dayWithin(sum: ChargedSum, before: FeeSchedule, after: FeeSchedule): PlainDate | null {
  const found = daysOf(sum).find(
    (since) => sum.receipts.reduce((fee, { day, gross }) => fee + feeOf(gross, day < since ? before : after), 0) === sum.fee, // prettier-ignore
  );
  return found ?? null;
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
    // The first may be of both, and what follows may be changed again: without the one, and with the fewest, it is tried too.
    const found = scheduleOf(after) ?? scheduleOf(after.slice(1)) ?? scheduleOf(after.slice(0, FEWEST + 1));
    if (!found || (found.schedule.rate === current.rate && found.schedule.fixed === current.fixed)) continue;
    const [changed, next] = [sums[at]!, sums[at + 1]!];
    const since = dayWithin(changed, current, found.schedule) ?? daysOf(next)[0]!;
    current = found.schedule;
    // All that follows until it fits no more for longer than a single sum.
    let end = at + 1;
    while (end < sums.length && (fits(sums[end]!, current) || (end + 1 < sums.length && fits(sums[end + 1]!, current)))) end++; // prettier-ignore
    const held = sums.slice(at, end);
    steps.push({ since, schedule: current, fit: held.filter((sum) => fits(sum, current)).length, of: held.length });
    at = end - 1;
  }
  return steps;
}
