import fc from 'fast-check';
import { nearOne, oneEditAway } from './near';

/** Optimal string alignment, by the book. */
function distance(a: string, b: string): number {
  const d = Array.from({ length: a.length + 1 }, (_, i) => [i, ...Array<number>(b.length).fill(0)]);
  for (let j = 0; j <= b.length; j++) d[0]![j] = j;
  for (let i = 1; i <= a.length; i++) {
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1] ? 0 : 1;
      d[i]![j] = Math.min(d[i - 1]![j]! + 1, d[i]![j - 1]! + 1, d[i - 1]![j - 1]! + same);
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
        d[i]![j] = Math.min(d[i]![j]!, d[i - 2]![j - 2]! + 1);
    }
  }
  return d[a.length]![b.length]!;
}

test.each([
  ['KS2041', 'KS2041', false],
  ['KS2041', 'KS2042', true],
  ['KS2041', 'KS204', true],
  ['KS2041', 'KS20411', true],
  ['KS2041', 'KS2014', true],
  ['KS2041', 'KS1240', false],
  ['KS2041', 'SK2041', true],
  ['2041', '2401', true],
  ['204', '205', false],
])('%s and %s: %s', (a, b, near) => {
  expect([oneEditAway(a, b), oneEditAway(b, a)]).toEqual([near, near]);
});

test('one edit is one edit by the book', () => {
  const word = fc.string({ unit: fc.constantFrom('A', 'B', '1', '2'), minLength: 4, maxLength: 8 });
  fc.assert(
    fc.property(word, word, (a, b) => oneEditAway(a, b) === (distance(a, b) === 1)),
    { numRuns: 3_000 },
  );
  expect(nearOne(['X1', 'KS2014'], 'KS2041')).toBe('KS2014');
  expect(nearOne(['KS2041'], 'KS2041')).toBeNull();
});
