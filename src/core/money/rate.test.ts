import fc from 'fast-check';
import { atRate, formatRate, formatUnits, minor, parseRate, parseThousandths, type Rate } from '.';

const rate = (text: string): Rate => {
  const parsed = parseRate(text);
  if (parsed === null) throw new Error(text);
  return parsed;
};

describe('a rate', () => {
  test.each([
    ['1.1700', 1_170_000],
    ['1', 1_000_000],
    ['0.000001', 1],
    [' 158.4 ', 158_400_000],
  ])('%j is read', (text, millionths) => {
    expect(parseRate(text)).toBe(millionths);
  });

  test.each(['', '0', '0.0000', '-1.2', '1,17', '1.1234567', '1e3', 'one', '12345678901'])('%j is none', (text) => {
    expect(parseRate(text)).toBeNull();
  });

  test('is written as it is read, with four decimals at least', () => {
    expect(['1.17', '0.5', '1.123456', '100'].map((text) => formatRate(rate(text)))).toEqual([
      '1.1700',
      '0.5000',
      '1.123456',
      '100.0000',
    ]);
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 999_999_999_999 }), (millionths) => {
        expect(parseRate(formatRate(millionths as Rate))).toBe(millionths);
      }),
    );
  });
});

describe('an amount at a rate', () => {
  test.each([
    [200_00, '1.1700', 'GBP', 'EUR', 234_00],
    [3_40, '1.1700', 'GBP', 'EUR', 3_98],
    [-3_40, '1.1700', 'GBP', 'EUR', -3_98],
    [196_60, '1.1650', 'GBP', 'EUR', 229_04],
    [1, '0.5', 'GBP', 'EUR', 1],
    [-1, '0.5', 'GBP', 'EUR', -1],
    [1000, '0.0062', 'JPY', 'EUR', 620],
    [620, '161.2903', 'EUR', 'JPY', 1000],
  ])('%d at %s from %s to %s is %d', (amount, at, from, to, expected) => {
    expect(atRate(minor(amount), rate(at), from, to)).toBe(expected);
  });

  test('keeps its sign, and is never further off than half a minor unit', () => {
    fc.assert(
      fc.property(fc.integer({ min: -1e9, max: 1e9 }), fc.integer({ min: 1, max: 9_000_000 }), (amount, millionths) => {
        const made = atRate(minor(amount), millionths as Rate, 'GBP', 'EUR');
        expect(Math.abs(made * 1_000_000 - amount * millionths)).toBeLessThanOrEqual(500_000);
        expect(atRate(minor(-amount), millionths as Rate, 'GBP', 'EUR') + made).toBe(0);
      }),
    );
  });
});

describe('units', () => {
  test.each([
    ['1', 1000],
    ['2.5', 2500],
    ['-0.125', -125],
    ['+3.1000', 3100],
    ['0', 0],
    ['-0', 0],
  ])('%j are thousandths', (text, thousandths) => {
    expect(parseThousandths(text)).toBe(thousandths);
  });
  test.each(['', '1,5', '1.2345', 'two', '1234567890'])('%j are none', (text) => {
    expect(parseThousandths(text)).toBeNull();
  });
  test('are shown without what says nothing', () => {
    expect([1000, 2500, 125, 1_234_000].map(formatUnits)).toEqual(['1', '2.5', '0.125', '1,234']);
  });
});
