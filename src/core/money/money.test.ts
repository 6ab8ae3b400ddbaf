import fc from 'fast-check';
import { formatAmount, minor, parseAmount, shareOf, splitByWeight, sum, taxWithin, writeAmount, type Minor } from '.';

const amount = fc.integer({ min: -9_000_000_000, max: 9_000_000_000 }).map(minor);

describe('amounts', () => {
  test.each([
    ['147.60', 'EUR', 14760],
    ['-3', 'EUR', -300],
    ['+0.05', 'EUR', 5],
    ['.5', 'EUR', 50],
    ['0', 'EUR', 0],
    ['12.3400', 'EUR', 1234],
    ['1500', 'JPY', 1500],
    ['1.234', 'KWD', 1234],
  ])('%s %s reads as %d', (text, currency, expected) => {
    expect(parseAmount(text, currency)).toEqual({ ok: true, minor: expected });
  });

  test.each([
    ['', 'empty'],
    ['-', 'not-a-number'],
    ['1.', 'not-a-number'],
    ['1,50', 'not-a-number'],
    ['1.2.3', 'not-a-number'],
    ['12€', 'not-a-number'],
    ['1e5', 'not-a-number'],
    ['0.005', 'too-many-decimals'],
    ['99999999999999999999', 'too-large'],
  ])('%s is refused as %s', (text, fault) => {
    expect(parseAmount(text, 'EUR')).toEqual({ ok: false, fault });
  });

  test('what is written reads back', () => {
    fc.assert(
      fc.property(amount, fc.constantFrom('EUR', 'JPY', 'KWD'), (value, currency) => {
        expect(parseAmount(writeAmount(value, currency), currency)).toEqual({ ok: true, minor: value });
      }),
    );
  });

  test('people read thousands and a true minus', () => {
    expect(formatAmount(minor(-123456789), 'EUR')).toBe('−1,234,567.89');
    expect(formatAmount(minor(5), 'EUR')).toBe('0.05');
    expect(formatAmount(minor(1000), 'JPY')).toBe('1,000');
  });

  test('a fraction of a cent is a bug', () => {
    expect(() => minor(0.5)).toThrow(RangeError);
    expect(() => minor(2 ** 60)).toThrow(RangeError);
  });
});

describe('rounding', () => {
  test('half away from zero, both ways', () => {
    expect(shareOf(minor(8500), 190)).toBe(162); // 161.5
    expect(shareOf(minor(-8500), 190)).toBe(-162);
    expect(shareOf(minor(14760), 190)).toBe(280); // 280.44
  });

  test('a share of a sum too large for doubles is exact', () => {
    expect(shareOf(minor(900_000_000_000_000), 9_999)).toBe(899_910_000_000_000);
  });

  test('tax within a price', () => {
    expect(taxWithin(minor(14760), 2300)).toBe(2760);
    expect(taxWithin(minor(0), 2300)).toBe(0);
  });

  test('worked figure G: 18.10 shared over 480.00 and 220.00', () => {
    expect(splitByWeight(minor(1810), [minor(48000), minor(22000)])).toEqual([1241, 569]);
  });

  test('parts always add up, and none is further than one unit from its share', () => {
    fc.assert(
      fc.property(
        amount,
        fc.array(fc.integer({ min: 0, max: 1_000_000 }).map(minor), { minLength: 1, maxLength: 12 }),
        (total, weights) => {
          fc.pre(sum(weights) > 0);
          const parts = splitByWeight(total, weights);
          expect(sum(parts)).toBe(total);
          parts.forEach((part, i) => {
            expect(Math.abs(part - (total * weights[i]!) / sum(weights))).toBeLessThanOrEqual(1);
          });
        },
      ),
    );
  });

  test('nothing cannot be split over', () => {
    expect(() => splitByWeight(minor(5), [0 as Minor])).toThrow(RangeError);
    expect(splitByWeight(minor(0), [0 as Minor, 0 as Minor])).toEqual([0, 0]);
  });
});
