import { formatAmount, formatPercent, type Currency } from '../money';
import type { FeeSchedule } from './fee-schedule';

/** A schedule as one says it: rate and fixed amount. */
export const scheduleWords = ({ rate, fixed }: FeeSchedule, currency: Currency): string =>
  rate === 0 && fixed === 0
    ? 'none set'
    : [rate > 0 ? formatPercent(rate) : '', fixed > 0 ? formatAmount(fixed, currency) : ''].filter(Boolean).join(' + ');
