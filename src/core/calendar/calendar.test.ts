import {
  addDays,
  addWorkingDays,
  bookDates,
  daysBetween,
  isWorkingDay,
  parseInstant,
  parsePlainDate,
  plainDate,
  type PlainDate,
  workingDaysBetween,
} from '.';

// The Irish bank holiday of October 2026 is Monday the 26th.
const calendar = { holidays: new Set([plainDate('2026-10-26')]) };

test.each([
  ['2026-02-28', true],
  ['2026-02-29', false],
  ['2024-02-29', true],
  ['2026-13-01', false],
  ['26-01-01', false],
  ['2026-1-1', false],
])('%s is a day: %s', (text, valid) => {
  expect(parsePlainDate(text) !== null).toBe(valid);
});

test('days go over month and year ends', () => {
  expect(addDays(plainDate('2026-12-31'), 1)).toBe('2027-01-01');
  expect(addDays(plainDate('2026-03-01'), -1)).toBe('2026-02-28');
  expect(daysBetween(plainDate('2026-10-24'), plainDate('2026-10-26'))).toBe(2);
});

test.each([
  ['2026-10-22', 2, '2026-10-27'], // Thu → Fri, (week-end, holiday), Tue
  ['2026-10-23', 1, '2026-10-27'],
  ['2026-10-24', 0, '2026-10-27'], // Saturday before the holiday
  ['2026-11-10', 2, '2026-11-12'],
])('%s plus %d working days is %s', (from, days, expected) => {
  expect(addWorkingDays(plainDate(from), days, calendar)).toBe(expected);
});

test('working days between count neither week-ends nor holidays, and go backwards too', () => {
  expect(workingDaysBetween(plainDate('2026-10-23'), plainDate('2026-10-27'), calendar)).toBe(1);
  expect(workingDaysBetween(plainDate('2026-10-27'), plainDate('2026-10-23'), calendar)).toBe(-1);
  expect(workingDaysBetween(plainDate('2026-11-10'), plainDate('2026-11-10'), calendar)).toBe(0);
});

describe('book dates', () => {
  const dublin = bookDates('Europe/Dublin');
  test.each([
    ['2026-09-30T23:30:00Z', '2026-10-01'], // summer time
    ['2026-11-30T23:30:00Z', '2026-11-30'], // winter time
    ['2026-10-25T00:59:59Z', '2026-10-25'], // the hour before the clocks go back
    ['2026-10-24T23:00:00Z', '2026-10-25'],
  ])('%s falls on %s in Dublin', (instant, day) => {
    expect(dublin(parseInstant(instant)!)).toBe(day);
  });
  test('an unknown zone is a bug', () => {
    expect(() => bookDates('Mars/Base')(new Date(0))).toThrow(RangeError);
  });
});

test.each([
  '2026-11-09',
  '2026-11-09T10:00:00',
  '2026-11-09T25:00:00Z',
  '2026-02-30T10:00:00Z',
  '2026-11-09T10:00:00+01:00',
])('a time without a clear instant is none: %s', (text) => {
  expect(parseInstant(text)).toBeNull();
});

test('working days between any two days are those that are counted one by one', () => {
  const holidays = new Set(['2026-10-26', '2026-12-25', '2026-12-26', '1969-12-25'].map(plainDate));
  const calendar = { holidays };
  const first = plainDate('1969-11-20');
  const counted = (from: PlainDate, to: PlainDate): number => {
    let count = 0;
    for (let day = from; day < to;) {
      day = addDays(day, 1);
      if (isWorkingDay(day, calendar)) count++;
    }
    return count;
  };
  for (const start of [0, 20_700, 20_790]) {
    for (let at = start; at < start + 30; at++) {
      for (let length = 0; length < 40; length += 3) {
        const [from, to] = [addDays(first, at), addDays(first, at + length)];
        expect(workingDaysBetween(from, to, calendar)).toBe(counted(from, to));
        expect(workingDaysBetween(to, from, calendar) + counted(from, to)).toBe(0);
      }
    }
  }
});
