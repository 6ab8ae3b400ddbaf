import type { FeeCheck } from '@/books/proof/fee-check';
import { formatDay } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import { counted, plural } from '@/core/words';

/** What was charged fits this schedule: since when, and how much of it does. */
export function learntWords({ learnt, since, currency }: FeeCheck): string {
  if (!learnt || !since) return '';
  return `since ${formatDay(since)} ${counted(learnt.fit)} of ${plural(learnt.of, 'receipt')} fit ${scheduleWords(learnt.schedule, currency)}`;
}
