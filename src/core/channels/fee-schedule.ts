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

/**
 * What a donor pays so that the whole of a gift is left after the fee: the least amount that does, in minor units (recipe 18).
 * At 1.9 % + 0.25 a gift of 50.00 needs 51.22: the fee on it is 1.22.
 */
export function coveringFee(gift: Minor, schedule: FeeSchedule): Minor {
  if (schedule.rate >= 10_000) throw new RangeError('a fee of all leaves nothing');
  let gross = Math.floor(((gift + schedule.fixed) * 10_000) / (10_000 - schedule.rate)) - 2;
  while (gross - feeOf(minor(gross), schedule) < gift) gross++;
  return minor(gross);
}
