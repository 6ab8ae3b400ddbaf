import type { BasisPoints, Minor } from '../money';
import { feeOf, type FeeSchedule } from './fee-schedule';

/** A receipt with the fee that its channel says it took. Minor units, above zero. */
export interface ChargedFee {
  readonly gross: Minor;
  readonly fee: Minor;
}

/** A schedule that what was charged fits, and how much of it does. */
export interface LearntFees {
  readonly schedule: FeeSchedule;
  /** How many fit to the cent, of how many. */
  readonly fit: number;
  readonly of: number;
}

/** Receipts that are looked at; more of them teach no more. */
const MOST = 2_000;
const FEWEST = 6;
/** Around the straight line through the fees, in basis points and minor units. */
const RATE_AROUND = 12;
const FIXED_AROUND = 4;

/** Rates and amounts that people agree on come before others that fit as well: equal amounts leave a schedule undetermined. */
export const roundness = ({ rate, fixed }: FeeSchedule) =>
  (rate % 100 === 0 ? 4 : rate % 50 === 0 ? 3 : rate % 10 === 0 ? 2 : rate % 5 === 0 ? 1 : 0) +
  (fixed % 10 === 0 ? 2 : fixed % 5 === 0 ? 1 : 0);

/** The straight line through the fees by least squares: rate and fixed amount before they are rounded. */
function line(charged: readonly ChargedFee[]): { readonly rate: number; readonly fixed: number } {
  const n = charged.length;
  const meanGross = charged.reduce((sum, { gross }) => sum + gross, 0) / n;
  const meanFee = charged.reduce((sum, { fee }) => sum + fee, 0) / n;
  let [over, under] = [0, 0];
  for (const { gross, fee } of charged) {
    over += (gross - meanGross) * (fee - meanFee);
    under += (gross - meanGross) ** 2;
  }
  const slope = under === 0 ? meanFee / meanGross : over / under;
  return { rate: slope * 10_000, fixed: under === 0 ? 0 : meanFee - slope * meanGross };
}

/**
 * Learns the schedule that fees were charged by: least squares first, then the schedule near that line which gives the most of
 * them exactly as they are rounded, the rounder one where several do. Null where there are too few, or none is told.
 */
export function learnFees(all: readonly ChargedFee[]): LearntFees | null {
  const charged = all.filter(({ gross, fee }) => gross > 0 && fee >= 0).slice(-MOST);
  if (charged.length < FEWEST) return null;
  // Fees charged otherwise pull a straight line off; the middle of what each amount was charged keeps it.
  const start = line(charged);
  const near = charged.filter(({ gross, fee }) => Math.abs(fee - (gross * start.rate) / 10_000 - start.fixed) <= 50);
  const middle = near.length >= FEWEST ? line(near) : start;
  const [rate, fixed] = [Math.round(middle.rate), Math.round(middle.fixed)];
  let best: LearntFees | null = null;
  const candidates: FeeSchedule[] = [];
  for (let r = Math.max(0, rate - RATE_AROUND); r <= rate + RATE_AROUND; r++) {
    for (let f = Math.max(0, fixed - FIXED_AROUND); f <= fixed + FIXED_AROUND; f++) {
      candidates.push({ rate: r as BasisPoints, fixed: f as Minor });
    }
  }
  // The line goes through all of a table of prices where they are few; then only round ones can be told from others.
  if (new Set(charged.map(({ gross }) => gross)).size < 3) {
    for (let r = 0; r <= 500; r += 10)
      candidates.push({
        rate: r as BasisPoints,
        fixed: Math.round(charged[0]!.fee - (charged[0]!.gross * r) / 10_000) as Minor,
      });
  }
  for (const schedule of candidates) {
    if (schedule.fixed < 0) continue;
    const fit = charged.filter(({ gross, fee }) => feeOf(gross, schedule) === fee).length;
    const better =
      best === null || fit > best.fit || (fit === best.fit && roundness(schedule) > roundness(best.schedule));
    if (better) best = { schedule, fit, of: charged.length };
  }
  return best;
}
