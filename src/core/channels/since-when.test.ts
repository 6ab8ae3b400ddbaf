import fc from 'fast-check';
import { addDays, plainDate } from '../calendar';
import { sinceWhen, type ChargedDay } from '.';

const day = (n: number) => addDays(plainDate('2026-10-01'), n);
const days = (...list: readonly (readonly [agreed: number, otherwise: number])[]): ChargedDay[] =>
  list.map(([agreed, otherwise], n) => ({ day: day(n), agreed, otherwise }));

test('since when: where nothing is otherwise, where all is, and where it changed', () => {
  expect(sinceWhen([])).toBeNull();
  expect(sinceWhen(days([3, 0], [4, 0]))).toBeNull();
  expect(sinceWhen(days([0, 3], [0, 4]))).toEqual({ since: day(0), before: 0 });
  expect(sinceWhen(days([3, 0], [3, 0], [0, 2], [0, 5]))).toEqual({ since: day(2), before: 0 });
});

test('a single one long before is no beginning, and is counted', () => {
  expect(sinceWhen(days([0, 1], [9, 0], [9, 0], [0, 9]))).toEqual({ since: day(3), before: 1 });
  // Nothing parts them: the first of all.
  expect(sinceWhen(days([5, 1], [5, 0], [5, 1], [5, 0]))).toEqual({ since: day(0), before: 0 });
});

test('no other day leaves less out of place', () => {
  const charged = fc.array(fc.tuple(fc.nat(4), fc.nat(4)), { maxLength: 12 });
  fc.assert(
    fc.property(charged, (list) => {
      const all = days(...list);
      const found = sinceWhen(all);
      const outOfPlace = (since: ChargedDay['day']) =>
        all.reduce((sum, one) => sum + (one.day < since ? one.otherwise : one.agreed), 0);
      if (found === null) return expect(all.every(({ otherwise }) => otherwise === 0)).toBe(true);
      const begun = all.filter(({ otherwise }) => otherwise > 0);
      const best = Math.min(...begun.map((one) => outOfPlace(one.day)));
      const never = all.reduce((sum, { otherwise }) => sum + otherwise, 0);
      // Where never is as good as any day, it is the first of all; else the best of them.
      expect(outOfPlace(found.since)).toBe(best < never ? best : outOfPlace(begun[0]!.day));
      expect(found.before).toBe(
        best < never ? all.reduce((sum, one) => sum + (one.day < found.since ? one.otherwise : 0), 0) : 0,
      );
    }),
    { numRuns: 1000 },
  );
});
