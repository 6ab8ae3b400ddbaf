import { connect, setTiming } from '@/books/fetching/connections';
import { takeDue } from '@/books/fetching/due';
import { nextRun } from '@/books/fetching/schedule';
import { BY_HAND, scheduleWords, type Schedule } from '@/books/fetching/schedule-input';
import { turnDay } from '@/books/setup/turn-day';
import { plainDate } from '@/core/calendar';
import { useWorld } from '../books/world';

const NOW = new Date('2026-11-16T09:00:00Z');
const DAILY: Schedule = { ...BY_HAND, every: 'day' };

const world = useWorld();
let desk: number;
beforeEach(async () => {
  const to = { channel: 1, account: null, address: '/standins/kittiwake/desk', secret: 'key' };
  desk = (await world.must(connect, to)).connection;
});

describe('when it is fetched', () => {
  const at = (of: Partial<Schedule>, after: string) =>
    nextRun({ ...BY_HAND, ...of }, 'Europe/Dublin', new Date(after))?.toISOString() ?? null;

  test.each([
    ['by hand', { every: 'hand' }, '2026-11-16T09:00:00Z', null],
    ['each day', { every: 'day' }, '2026-11-16T09:00:00Z', '2026-11-17T06:30:00.000Z'],
    ['each day, in summer time', { every: 'day' }, '2026-07-16T09:00:00Z', '2026-07-17T05:30:00.000Z'],
    ['over the change of the clocks', { every: 'day' }, '2026-10-24T06:00:00Z', '2026-10-25T06:30:00.000Z'],
    ['each Monday', { every: 'week', weekday: 1 }, '2026-11-16T09:00:00Z', '2026-11-23T06:30:00.000Z'],
    ['each Sunday', { every: 'week', weekday: 7 }, '2026-11-16T09:00:00Z', '2026-11-22T06:30:00.000Z'],
    ['on day 28', { every: 'month', monthday: 28 }, '2026-11-28T09:00:00Z', '2026-12-28T06:30:00.000Z'],
    ['on the last day', { every: 'month', monthday: 0 }, '2027-02-01T09:00:00Z', '2027-02-28T06:30:00.000Z'],
  ] as const)('%s', (_, of, after, next) => {
    expect(at(of, after)).toBe(next);
  });

  test('in words', () => {
    expect(scheduleWords({ ...BY_HAND, every: 'week', weekday: 5, at: '07:00' })).toBe('each Friday at 07:00');
    expect(scheduleWords({ ...BY_HAND, every: 'month', monthday: 0, onEvents: true })).toBe(
      'on the last day of each month at 06:30, and when the channel says that something changed',
    );
  });

  test('a run that was missed for days is due once', async () => {
    await world.must(setTiming, { connection: desk, schedule: DAILY, mailTo: '' });
    expect(await takeDue(world.books, NOW)).toEqual([]);
    await world.must(turnDay, { day: plainDate('2026-11-20') });
    expect(await takeDue(world.books, NOW)).toEqual([desk]);
    expect(await takeDue(world.books, NOW)).toEqual([]);
  });

  test('a day is turned forward only, and only where it stands still', async () => {
    expect(await world.refusal(turnDay, { day: plainDate('2026-11-16') })).toBe('invalid-input');
    await world.books.write(
      ({ db }) => db.updateTable('books').set({ fixed_today: null }).execute(),
      () => true,
    );
    expect(await world.refusal(turnDay, { day: plainDate('2030-01-01') })).toBe('invalid-input');
  });
});
