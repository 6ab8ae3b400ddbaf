import fc from 'fast-check';
import { addDays, plainDate, type PlainDate } from '../calendar';
import { minor, type BasisPoints } from '../money';
import { feeOf, FeeSteps, learnSteps, type ChargedSum, type FeeSchedule, type FeeStep } from '.';

const FIRST = plainDate('2026-09-01');
const schedule = (rate: number, fixed: number): FeeSchedule => ({ rate: rate as BasisPoints, fixed: minor(fixed) });
const AGREED = schedule(190, 25);

/** Amounts that look like sales: many small ones, no two days alike, always the same for a seed. */
function gross(seed: number): number {
  return 300 + ((seed * 7919 + (seed % 13) * 104_729) % 24_000);
}

interface Shape {
  readonly days: number;
  readonly perDay: number;
  /** Receipts of a day that are paid out a day later. */
  readonly late: number;
  readonly seed: number;
}

/** One sum a day, of that day and what was left of the one before, charged by what is in force on each receipt's day. */
function sumsOf({ days, perDay, late, seed }: Shape, inForce: (day: PlainDate) => FeeSchedule): ChargedSum[] {
  const receipts = Array.from({ length: days * perDay }, (_, n) => ({
    day: addDays(FIRST, Math.floor(n / perDay)),
    gross: minor(gross(n + seed * 31)),
  }));
  return Array.from({ length: days }, (_, day) => {
    const own = receipts.slice(Math.max(0, day * perDay - late), (day + 1) * perDay - late);
    const fee = own.reduce((sum, one) => sum + feeOf(one.gross, inForce(one.day)), 0);
    return { receipts: own, fee: minor(fee) };
  });
}

const changing =
  (...steps: readonly (readonly [number, FeeSchedule])[]) =>
  (day: PlainDate) =>
    [...steps].reverse().find(([after]) => day >= addDays(FIRST, after))?.[1] ?? AGREED;

const SHAPE: Shape = { days: 20, perDay: 18, late: 0, seed: 1 };

describe('what a channel charges otherwise', () => {
  test('nothing changed, nothing is learnt', () => {
    expect(
      learnSteps(
        sumsOf(SHAPE, () => AGREED),
        AGREED,
      ),
    ).toEqual([]);
  });

  test('a dearer rate is learnt with its day, to the cent', () => {
    const dearer = schedule(220, 25);
    const sums = sumsOf(SHAPE, changing([10, dearer]));
    expect(learnSteps(sums, AGREED)).toEqual([{ since: '2026-09-11', schedule: dearer, fit: 10, of: 10 }]);
  });

  test('four sums tell it, three do not', () => {
    const sums = sumsOf(SHAPE, changing([10, schedule(240, 30)]));
    expect(learnSteps(sums.slice(0, 13), AGREED)).toEqual([]);
    expect(learnSteps(sums.slice(0, 14), AGREED)).toMatchObject([{ since: '2026-09-11', fit: 4, of: 4 }]);
  });

  test('the day lies within a payout that carries receipts of both', () => {
    const dearer = schedule(240, 30);
    const sums = sumsOf({ ...SHAPE, late: 7 }, changing([10, dearer]));
    const [step] = learnSteps(sums, AGREED);
    expect(step).toMatchObject({ since: '2026-09-11', schedule: dearer });
    // That payout fits neither alone.
    expect(step!.of - step!.fit).toBe(1);
  });

  test('two changes, each with its own day', () => {
    const [dearer, cheaper] = [schedule(240, 30), schedule(175, 20)];
    const sums = sumsOf({ ...SHAPE, days: 30 }, changing([8, dearer], [19, cheaper]));
    expect(learnSteps(sums, AGREED)).toEqual([
      { since: '2026-09-09', schedule: dearer, fit: 11, of: 11 },
      { since: '2026-09-20', schedule: cheaper, fit: 11, of: 11 },
    ]);
  });

  test('one payout that lacks a receipt is no change, before a change or after it', () => {
    const sums = sumsOf(SHAPE, () => AGREED);
    const odd = sums.map((sum, n) => (n === 7 ? { ...sum, fee: minor(sum.fee + 4_210) } : sum));
    expect(learnSteps(odd, AGREED)).toEqual([]);
    const dearer = schedule(220, 25);
    const changed = sumsOf(SHAPE, changing([10, dearer])).map((sum, n) =>
      n === 15 ? { ...sum, fee: minor(sum.fee - 300) } : sum,
    );
    expect(learnSteps(changed, AGREED)).toEqual([{ since: '2026-09-11', schedule: dearer, fit: 9, of: 10 }]);
  });

  test('fees by no schedule teach nothing', () => {
    const sums = sumsOf(SHAPE, () => AGREED).map((sum, n) => ({ ...sum, fee: minor(sum.fee + ((n * 7919) % 611)) }));
    expect(learnSteps(sums, AGREED)).toEqual([]);
  });

  test('a fee that is rounded once a payout is as agreed, however few its receipts', () => {
    for (let seed = 1; seed <= 40; seed++) {
      const sums = sumsOf({ days: 30, perDay: 5, late: 0, seed }, () => AGREED).map(({ receipts }) => {
        const gross = receipts.reduce((sum, one) => sum + one.gross, 0);
        return { receipts, fee: minor(Math.round((gross * 190) / 10_000) + 25 * receipts.length) };
      });
      expect(learnSteps(sums, AGREED)).toEqual([]);
    }
  });

  test('refunds among the receipts are charged nothing', () => {
    const dearer = schedule(300, 0);
    const sums = sumsOf(SHAPE, changing([6, dearer])).map(({ receipts, fee }) => ({
      receipts: [...receipts, { day: receipts[0]!.day, gross: minor(-1_500) }],
      fee,
    }));
    expect(learnSteps(sums, AGREED)).toMatchObject([{ since: '2026-09-07', schedule: dearer }]);
  });

  test('any change to a rate that people agree on is found, whatever the amounts, and nothing else is', () => {
    const shape = fc.record({
      perDay: fc.integer({ min: 6, max: 40 }),
      late: fc.constantFrom(0, 0, 3),
      days: fc.integer({ min: 14, max: 30 }),
      seed: fc.nat(10_000),
    });
    const rate = fc.integer({ min: 10, max: 70 }).map((n) => n * 5);
    fc.assert(
      fc.property(
        shape,
        rate,
        fc.integer({ min: 0, max: 8 }),
        fc.integer({ min: 2, max: 8 }),
        (world, to, fixed, on) => {
          const dearer = schedule(to, fixed * 5);
          fc.pre(to !== AGREED.rate || dearer.fixed !== AGREED.fixed);
          const sums = sumsOf(world, changing([on, dearer]));
          const steps = learnSteps(sums, AGREED);
          expect(steps).toHaveLength(1);
          expect(steps[0]).toMatchObject({ since: addDays(FIRST, on), schedule: dearer });
          expect(steps[0]!.fit).toBeGreaterThanOrEqual(world.days - on - 1);
        },
      ),
      { numRuns: 100 },
    );
  });

  test('the order in which sums are given does not matter', () => {
    const sums = sumsOf(SHAPE, changing([10, schedule(220, 25)]));
    const order = fc.shuffledSubarray([...sums.keys()], { minLength: sums.length });
    fc.assert(
      fc.property(order, (keys) => {
        expect(
          learnSteps(
            keys.map((key) => sums[key]!),
            AGREED,
          ),
        ).toEqual(learnSteps(sums, AGREED));
      }),
      { numRuns: 30 },
    );
  });
});

describe('what is in force on a day', () => {
  const step = (since: string, rate: number): FeeStep => ({
    since: plainDate(since),
    schedule: schedule(rate, 0),
    learnt: false,
  });
  const steps = new FeeSteps(AGREED, [step('2026-10-01', 220), step('2026-09-10', 200)]);

  test.each([
    ['2026-09-09', 190],
    ['2026-09-10', 200],
    ['2026-09-30', 200],
    ['2026-10-01', 220],
    ['2027-05-05', 220],
  ])('on %s the rate is %i', (day, rate) => {
    expect(steps.on(plainDate(day)).rate).toBe(rate);
  });

  test('what takes nothing on any day is none', () => {
    expect(new FeeSteps(schedule(0, 0), []).none).toBe(true);
    expect(new FeeSteps(schedule(0, 0), [step('2026-10-01', 150)]).none).toBe(false);
    expect(new FeeSteps(AGREED, []).none).toBe(false);
  });
});
