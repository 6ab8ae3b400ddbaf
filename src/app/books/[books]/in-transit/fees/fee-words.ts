import type { FeeCheck } from '@/books/proof/fee-check';
import { scheduleWords } from '@/core/channels';
import { counted, plural } from '@/core/words';

/** What was charged fits this schedule, and how much of it does. */
export function learntWords({ learnt, currency }: FeeCheck): string {
  if (!learnt) return '';
  return `${counted(learnt.fit)} of ${plural(learnt.of, 'receipt')} fit ${scheduleWords(learnt.schedule, currency)}`;
}
