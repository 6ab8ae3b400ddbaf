import fc from 'fast-check';
import { addDays, plainDate } from '../calendar';
import { add, minor, subtract, sum, type Minor } from '../money';
import {
  askedOn,
  billLines,
  byNumber,
  discountOf,
  discountTaken,
  dueDates,
  inOrder,
  isLastOfMonth,
  lineAmount,
  lineTax,
  monthsOn,
  oldest,
  periodsUntil,
  priceOn,
  prorated,
  spanOf,
  type BillLine,
  type EarlyPayment,
  type Recurrence,
} from '.';

const day = plainDate;

describe('lines', () => {
  const line = (quantity: number, price: number, more: Partial<BillLine> = {}): BillLine => ({
    quantity,
    price: minor(price),
    discount: 0,
    taxCode: 1,
    rate: 2300,
    ...more,
  });

  test.each([
    [2500, 4800, 12000],
    [333, 100, 33],
    [335, 100, 34],
    [-1000, 4999, -4999],
    [-335, 100, -34],
    [0, 4800, 0],
  ])('%d thousandths at %d come to %d', (quantity, price, amount) => {
    expect(lineAmount(quantity, minor(price))).toBe(amount);
  });

  test('a discount comes off the line before tax; a line for nothing stays a line', () => {
    expect(billLines([line(1000, 12000, { discount: 1000 }), line(1000, 0)])).toEqual([
      { off: 1200, net: 10800, tax: 2484 },
      { off: 0, net: 0, tax: 0 },
    ]);
  });

  test('the tax of a rate is that of its lines together: 3 × 0.33 at 23 % is 0.23, not 0.24', () => {
    const billed = billLines([line(1000, 33), line(1000, 33), line(1000, 33)]);
    expect(billed.map(({ tax }) => tax)).toEqual([7, 8, 8]);
  });

  test('by rate, tax is that of the net; nothing is lost between lines', () => {
    const some = fc.record({
      quantity: fc.integer({ min: -5000, max: 100_000 }),
      price: fc.integer({ min: 0, max: 1_000_000 }).map(minor),
      discount: fc.integer({ min: 0, max: 10_000 }),
      taxCode: fc.integer({ min: 1, max: 3 }),
    });
    fc.assert(
      fc.property(fc.array(some, { maxLength: 100 }), (lines) => {
        const rated = lines.map((one) => ({ ...one, rate: [0, 1350, 2300][one.taxCode - 1]! }));
        const billed = billLines(rated);
        for (const code of [1, 2, 3]) {
          const of = billed.filter((_, index) => rated[index]!.taxCode === code);
          const net = sum(of.map((one) => one.net));
          expect(sum(of.map((one) => one.tax))).toBe(lineTax(net, [0, 1350, 2300][code - 1]!));
        }
      }),
    );
  });
});

describe('early payment', () => {
  const early: EarlyPayment = {
    rate: 200,
    until: day('2026-11-12'),
    taxed: [{ taxCode: 1, net: minor(20000), tax: minor(4600) }],
  };

  test('figure E: 2 % of 246.00 are 4.00 net and 0.92 tax', () => {
    expect(discountOf(early)).toEqual({ amount: 492, parts: [{ taxCode: 1, net: 400, tax: 92 }] });
    expect(askedOn(minor(24600), early, day('2026-11-12'))).toEqual({ asked: 24108, discount: 492 });
    expect(askedOn(minor(24600), early, day('2026-11-13'))).toEqual({ asked: 24600, discount: 0 });
  });

  test.each([
    [24108, '2026-11-12', 492],
    [24107, '2026-11-12', 0],
    [24108, '2026-11-13', 0],
    [24500, '2026-11-01', 492],
    // Who pays all of it pays all of it.
    [24600, '2026-11-01', 0],
  ])('a payment of %d on %s takes %d off', (paid, on, off) => {
    expect(discountTaken(minor(paid), minor(24600), early, day(on))).toBe(off);
  });

  test('part paid so far: the rest less the discount of the whole', () => {
    expect(askedOn(minor(14600), early, day('2026-11-10'))).toEqual({ asked: 14108, discount: 492 });
    expect(askedOn(minor(492), early, day('2026-11-10'))).toEqual({ asked: 492, discount: 0 });
  });

  test('over several taxes its parts come to it', () => {
    const amounts = fc.integer({ min: 0, max: 1_000_000 }).map(minor);
    const taxed = fc.array(fc.record({ taxCode: fc.nat(), net: amounts, tax: amounts }), {
      minLength: 1,
      maxLength: 5,
    });
    fc.assert(
      fc.property(taxed, fc.integer({ min: 0, max: 5000 }), (list, rate) => {
        const { amount, parts } = discountOf({ rate, taxed: list });
        expect(sum(parts.map(({ net, tax }) => add(net, tax)))).toBe(amount);
      }),
    );
  });

  test('terms give the days', () => {
    const terms = { dueDays: 30, discountRate: 200, discountDays: 10 };
    expect(dueDates(day('2026-11-02'), terms)).toEqual({ due: '2026-12-02', discountUntil: '2026-11-12' });
    expect(dueDates(day('2026-11-02'), { ...terms, discountRate: 0 }).discountUntil).toBeNull();
  });
});

describe('putting money to invoices', () => {
  const invoice = (id: number, number: string, due: string, open: number) => ({
    id,
    number,
    issued: day('2026-09-01'),
    due: day(due),
    open: minor(open),
  });
  const three = [
    invoice(1, 'K2026-0012', '2026-10-30', 5000),
    invoice(2, 'K2026-0001', '2026-09-30', 2000),
    invoice(3, 'K2026-0120', '2026-10-01', 3000),
  ];

  test('oldest first, the last in part, what is over is over', () => {
    expect(oldest(minor(4000), three)).toEqual({
      shares: [
        { invoice: 2, amount: 2000 },
        { invoice: 3, amount: 2000 },
      ],
      over: 0,
    });
    expect(oldest(minor(11000), three).over).toBe(1000);
  });

  test('by number as they stand in a text, however they are written; one within another is not meant', () => {
    expect(byNumber(minor(9000), three, 'pays k2026 0120 and K2026/0012 thanks').shares).toEqual([
      { invoice: 3, amount: 3000 },
      { invoice: 1, amount: 5000 },
    ]);
    expect(byNumber(minor(9000), three, 'rent').shares).toEqual([]);
  });

  test('never more than is open, never more than there is, nothing lost', () => {
    const open = fc.array(fc.integer({ min: 0, max: 10_000 }), { maxLength: 20 });
    fc.assert(
      fc.property(open, fc.integer({ min: 0, max: 100_000 }), (list, money) => {
        const invoices = list.map((of, index) => invoice(index, `N${index}`, '2026-10-01', of));
        const { shares, over } = inOrder(minor(money), invoices);
        expect(add(sum(shares.map(({ amount }) => amount)), over)).toBe(money);
        for (const share of shares) expect(share.amount).toBeLessThanOrEqual(invoices[share.invoice]!.open);
        if (over > 0) expect(sum(shares.map(({ amount }) => amount))).toBe(sum(list.map(minor)));
      }),
    );
  });
});

test.each([
  ['2026-11-16', 'notDue'],
  ['2026-11-15', 'days30'],
  ['2026-10-17', 'days30'],
  ['2026-10-16', 'days60'],
  ['2026-09-17', 'days60'],
  ['2026-09-16', 'days90'],
  ['2026-08-18', 'days90'],
  ['2026-08-17', 'older'],
])('due on %s, on 16 November it is %s', (due, span) => {
  expect(spanOf(day(due), day('2026-11-16'))).toBe(span);
});

describe('plans', () => {
  const plan = (more: Partial<Recurrence> = {}): Recurrence => ({
    every: 'month',
    starts: day('2027-01-31'),
    lastDay: true,
    ends: null,
    pausedFrom: null,
    resumes: null,
    prorates: true,
    ...more,
  });
  const starts = (of: Recurrence, until: string) => periodsUntil(of, day(until)).map(({ from }) => from);

  test('the end of a month stays the end of a month, in a leap year too', () => {
    expect(starts(plan(), '2027-05-31')).toEqual([
      '2027-01-31',
      '2027-02-28',
      '2027-03-31',
      '2027-04-30',
      '2027-05-31',
    ]);
    expect(starts(plan({ starts: day('2028-01-31') }), '2028-03-31')[1]).toBe('2028-02-29');
    expect(starts(plan({ starts: day('2027-02-28') }), '2027-04-30')).toEqual([
      '2027-02-28',
      '2027-03-31',
      '2027-04-30',
    ]);
  });

  test('the 31st without the end meant falls on the last there is, and comes back', () => {
    expect(starts(plan({ lastDay: false }), '2027-03-31')).toEqual(['2027-01-31', '2027-02-28', '2027-03-31']);
    expect(starts(plan({ lastDay: false, starts: day('2027-02-28') }), '2027-03-31')[1]).toBe('2027-03-28');
  });

  test('quarters and years', () => {
    expect(starts(plan({ every: 'quarter', starts: day('2026-11-30') }), '2027-06-01')).toEqual([
      '2026-11-30',
      '2027-02-28',
      '2027-05-31',
    ]);
    expect(starts(plan({ every: 'year', starts: day('2028-02-29') }), '2030-03-01')).toEqual([
      '2028-02-29',
      '2029-02-28',
      '2030-02-28',
    ]);
  });

  test('a pause leaves periods out; without an end it stops there', () => {
    const paused = plan({ lastDay: false, starts: day('2027-01-01'), pausedFrom: day('2027-02-01') });
    expect(starts({ ...paused, resumes: day('2027-04-01') }, '2027-05-01')).toEqual([
      '2027-01-01',
      '2027-04-01',
      '2027-05-01',
    ]);
    expect(starts(paused, '2028-01-01')).toEqual(['2027-01-01']);
  });

  test('an end in the middle of a period bills its days: 15 of 30', () => {
    const of = plan({ lastDay: false, starts: day('2027-04-01'), ends: day('2027-04-15') });
    expect(periodsUntil(of, day('2027-12-31'))).toEqual([{ from: '2027-04-01', to: '2027-04-15', days: 15, of: 30 }]);
    expect(prorated(minor(4400), { days: 15, of: 30 })).toBe(2200);
    expect(prorated(minor(-101), { days: 1, of: 2 })).toBe(-51);
    expect(periodsUntil({ ...of, prorates: false }, day('2027-12-31'))[0]).toMatchObject({ days: 30, of: 30 });
  });

  test('periods follow each other without a gap or an overlap', () => {
    const from = fc.integer({ min: 0, max: 3000 }).map((days) => addDays(day('2026-01-01'), days));
    fc.assert(
      fc.property(from, fc.constantFrom('month', 'quarter', 'year' as const), fc.boolean(), (first, every, last) => {
        const of = plan({ starts: first, every: every as Recurrence['every'], lastDay: last && isLastOfMonth(first) });
        const periods = periodsUntil(of, addDays(first, 1500));
        periods.slice(1).forEach((period, index) => expect(period.from).toBe(addDays(periods[index]!.to, 1)));
      }),
    );
  });

  test('a price changes from a day on', () => {
    const prices = [
      { from: day('2027-03-01'), price: minor(3000) },
      { from: day('2027-02-01'), price: minor(2900) },
    ];
    const on = (date: string): Minor => priceOn(prices, minor(2800), day(date));
    expect(['2027-01-31', '2027-02-01', '2027-03-01'].map(on)).toEqual([2800, 2900, 3000]);
    expect(monthsOn(day('2026-12-31'), 2)).toBe('2027-02-28');
    expect(subtract(on('2027-03-01'), on('2027-01-01'))).toBe(200);
  });
});
