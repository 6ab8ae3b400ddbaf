import { Cron } from 'croner';
import type { Schedule } from './schedule-input';

function pattern({ every, at, weekday, monthday }: Schedule): string | null {
  const [hour, minute] = at.split(':').map(Number) as [number, number];
  switch (every) {
    case 'hand':
      return null;
    case 'day':
      return `${minute} ${hour} * * *`;
    case 'week':
      return `${minute} ${hour} * * ${weekday % 7}`;
    case 'month':
      return `${minute} ${hour} ${monthday === 0 ? 'L' : monthday} * *`;
  }
}

/** The first run after a moment; null where it is fetched by hand only. Clock changes of the zone are kept to. */
export function nextRun(of: Schedule, zone: string, after: Date): Date | null {
  const cron = pattern(of);
  return cron === null ? null : new Cron(cron, { timezone: zone, paused: true }).nextRun(after);
}
