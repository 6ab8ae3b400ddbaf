import { addDays, type PlainDate } from '../../calendar';
import { negate } from '../../money';
import type { Entry } from '../entry';

/** Recipe 25, reversal: every debit a credit and every credit a debit, naming the journal it undoes. */
export function reversal(entry: Entry, journal: number): Entry {
  return {
    lines: entry.lines.map(({ account, amount, dimensions, foreign }) => ({
      account,
      amount: negate(amount),
      because: { why: 'reverses', journal },
      ...(dimensions && { dimensions }),
      ...(foreign && { foreign: { ...foreign, amount: negate(foreign.amount) } }),
    })),
  };
}

/** A reversal is dated the day of what it undoes, or the first open day where that one is closed. */
export function reversalDate(date: PlainDate, closedThrough: PlainDate | null): PlainDate {
  return closedThrough !== null && date <= closedThrough ? addDays(closedThrough, 1) : date;
}
