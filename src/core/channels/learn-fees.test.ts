import fc from 'fast-check';
import { minor } from '../money';
import { feeOf, learnFees, type FeeSchedule } from '.';

const charged = (grosses: readonly number[], schedule: FeeSchedule) =>
  grosses.map((gross) => ({ gross: minor(gross), fee: feeOf(minor(gross), schedule) }));
const schedule = (rate: number, fixed: number): FeeSchedule => ({ rate, fixed: minor(fixed) });

test('the schedule that fees were charged by is found again, to the cent', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 400 }),
      fc.integer({ min: 0, max: 60 }),
      fc.uniqueArray(fc.integer({ min: 200, max: 90_000 }), { minLength: 40, maxLength: 80 }),
      (rate, fixed, grosses) => {
        const learnt = learnFees(charged(grosses, schedule(rate, fixed)))!;
        expect(learnt.fit).toBe(grosses.length);
        // What fits all of them says the same of every amount among them, if it is not the very one.
        for (const gross of grosses)
          expect(feeOf(minor(gross), learnt.schedule)).toBe(feeOf(minor(gross), schedule(rate, fixed)));
      },
    ),
    { numRuns: 60 },
  );
});

test('a few that were charged otherwise do not turn it, and are not among what fits', () => {
  const grosses = Array.from({ length: 60 }, (_, n) => 900 + n * 431);
  const odd = [
    { gross: minor(10_000), fee: minor(999) },
    { gross: minor(5_000), fee: minor(0) },
  ];
  expect(learnFees([...charged(grosses, schedule(190, 25)), ...odd])).toEqual({
    schedule: schedule(190, 25),
    fit: 60,
    of: 62,
  });
});

test('of equal amounts the rounder schedule; of too few, or of refunds, none', () => {
  const same = learnFees(charged(new Array<number>(20).fill(2_500), schedule(140, 0)))!;
  expect([same.fit, feeOf(minor(2_500), same.schedule)]).toEqual([20, 35]);
  expect(same.schedule.rate % 10).toBe(0);
  expect(learnFees(charged([100, 200], schedule(190, 25)))).toBeNull();
  expect(learnFees(charged(new Array<number>(10).fill(-500), schedule(190, 25)))).toBeNull();
});
