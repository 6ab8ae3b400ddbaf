import fc from 'fast-check';
import { cutFits, learnCut, type Boundary } from '.';

const DAY = 1440;
/** Payouts of these days, cut at this minute, with receipts so many minutes apart. */
const boundaries = (cut: number, days: number, every: number): Boundary[] =>
  Array.from({ length: days }, (_, day) => {
    const at = day * DAY + cut;
    return { last: Math.ceil(at / every) * every - every, next: Math.ceil(at / every) * every };
  });

test('the cut is found wherever it is, to the quarter of an hour', () => {
  for (const cut of [0, 480, 1020, 1335]) {
    expect(learnCut(boundaries(cut, 12, 5), 0)).toEqual({ minute: cut, fit: 12, of: 12, asSet: cut === 0 ? 12 : 0 });
  }
});

test('where several fit, the roundest is taken, and what is set stays if it is one of them', () => {
  const wide = boundaries(1260, 8, 200);
  expect(learnCut(wide, 0)!.minute % 60).toBe(0);
  const fits = Array.from({ length: 96 }, (_, n) => n * 15).filter((minute) =>
    wide.every((one) => cutFits(one, minute)),
  );
  expect(fits.length).toBeGreaterThan(1);
  for (const minute of fits) expect(learnCut(wide, minute)!.minute).toBe(minute);
});

test('a few, or none that fits nine in ten, teach nothing', () => {
  expect(learnCut(boundaries(0, 4, 5), 0)).toBeNull();
  const scattered = [60, 400, 800, 1100, 1300, 200].map((minute, day) => ({
    last: day * DAY + minute,
    next: day * DAY + minute + 5,
  }));
  expect(learnCut(scattered, 0)).toBeNull();
  const once = [...boundaries(600, 19, 5), { last: 20 * DAY + 900, next: 20 * DAY + 905 }];
  expect(learnCut(once, 0)).toMatchObject({ minute: 600, fit: 19, of: 20 });
});

test('a cut fits exactly where some minute of that time of day lies between', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 20_000 }),
      fc.integer({ min: 0, max: 3_000 }),
      fc.integer({ min: 0, max: 1439 }),
      (last, gap, minute) => {
        const next = last + gap;
        const some = Array.from({ length: gap }, (_, n) => last + 1 + n).some((at) => at % DAY === minute);
        expect(cutFits({ last, next }, minute)).toBe(some);
      },
    ),
  );
});
