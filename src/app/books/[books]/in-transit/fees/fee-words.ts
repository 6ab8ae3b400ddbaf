import type { FeeCheck } from '@/books/proof/fee-check';
import { formatDay } from '@/core/calendar';
import type { FeeSchedule } from '@/core/channels';
import { formatAmount, formatPercent, type Currency } from '@/core/money';
import { counted, plural } from '@/core/words';

/** A schedule as one says it: rate and fixed amount. */
export const scheduleWords = ({ rate, fixed }: FeeSchedule, currency: Currency) =>
  rate === 0 && fixed === 0
    ? 'none set'
    : [rate > 0 ? formatPercent(rate) : '', fixed > 0 ? formatAmount(fixed, currency) : ''].filter(Boolean).join(' + ');

/** What was charged fits this schedule: since when, and how much of it does. */
export function learntWords({ learnt, since, currency }: FeeCheck): string {
  if (!learnt || !since) return '';
  return `since ${formatDay(since)} ${counted(learnt.fit)} of ${plural(learnt.of, 'receipt')} fit ${scheduleWords(learnt.schedule, currency)}`;
}
