import { formatDay } from '../calendar';
import { formatAmount, type Currency } from '../money';
import type { Reason } from './payouts';

const days = (count: number) => `${count} working ${Math.abs(count) === 1 ? 'day' : 'days'}`;

/** A reason as a short plain phrase. */
export function reasonWords(reason: Reason, currency: Currency): string {
  switch (reason.kind) {
    case 'reference-in-text':
      return `payout id ${reason.reference} stands in the bank’s text`;
    case 'equal-to-the-cent':
      return 'equal to the cent';
    case 'arrived':
      return `${days(reason.lag)} after it left, ${reason.usual} is usual`;
    case 'only-one':
      return `the only payout and the only deposit of this amount from ${formatDay(reason.from)} to ${formatDay(reason.to)}`;
    case 'outside-usual-lag':
      return `${days(reason.lag)} after it left, ${reason.usual} is usual`;
    case 'several-payouts':
      return `${reason.count} payouts of this amount fit`;
    case 'several-lines':
      return `${reason.count} deposits of this amount compete`;
    case 'reference-but-amount':
      return `payout ${reason.reference} is named, but its net is ${formatAmount(reason.net, currency)}`;
  }
}
