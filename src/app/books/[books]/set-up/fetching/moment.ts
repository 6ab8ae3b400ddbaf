import { tz } from '@date-fns/tz';
import { format } from 'date-fns';

/** A moment as the clock of a zone shows it: 17 Nov 2026, 06:30. */
export function momentWords(instant: string, zone: string): string {
  return format(new Date(instant), 'd MMM yyyy, HH:mm', { in: tz(zone) });
}
