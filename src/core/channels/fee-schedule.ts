import { add, minor, shareOf, type BasisPoints, type Minor } from '../money';

/** What a channel agreed to take of one receipt: a rate in basis points and a fixed amount in minor units. */
export interface FeeSchedule {
  readonly rate: BasisPoints;
  readonly fixed: Minor;
}

/**
 * The fee on one receipt, in minor units: the share rounded half away from zero, and the fixed amount. 147.60 at
 * 1.9 % + 0.25 is 3.05. Nothing is taken of a refund.
 */
export function feeOf(gross: Minor, schedule: FeeSchedule): Minor {
  return gross <= 0 ? minor(0) : add(shareOf(gross, schedule.rate), schedule.fixed);
}
