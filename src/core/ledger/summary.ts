import { add, type Minor } from '../money';
import type { Because } from './because';
import type { Entry, EntryLine } from './entry';

/** What of a reason is the same for all lines that are added up: documents and payers stay with their receipts. */
function groupOf(because: Because): Because {
  switch (because.why) {
    case 'settles-invoice':
    case 'over-invoice':
    case 'unknown-document':
      return { ...because, document: '' };
    case 'refund':
      return { ...because, of: '' };
    default:
      return because;
  }
}

interface Gathered {
  readonly line: EntryLine;
  amount: Minor;
  count: number;
}

/**
 * The daily summary: entries of single receipts added up by account, side, dimensions and reason, as they come. Debits
 * and credits of one account stay apart, so that gross and fee are still to be seen; what is added up is exactly what
 * the single entries say, to the minor unit, because nothing is worked out again.
 */
export class EntrySummary {
  private readonly groups = new Map<string, Gathered>();

  add({ lines }: Entry): void {
    for (const line of lines) {
      const because = groupOf(line.because);
      const side = line.amount > 0 ? 'debit' : 'credit';
      const key = JSON.stringify([line.account, side, line.dimensions ?? [], because]);
      const group = this.groups.get(key);
      if (group === undefined) this.groups.set(key, { line: { ...line, because }, amount: line.amount, count: 1 });
      else {
        group.amount = add(group.amount, line.amount);
        group.count++;
      }
    }
  }

  /** Debits first, as a reader of an entry expects them; within a side in the order in which they came up. */
  entry(): Entry {
    const lines = [...this.groups.values()].map(({ line, amount, count }) => ({
      ...line,
      amount,
      because: { why: 'summary', count, of: line.because } as const,
    }));
    return { lines: [...lines.filter((line) => line.amount > 0), ...lines.filter((line) => line.amount < 0)] };
  }
}

/** Entries added up at once. */
export function addUp(entries: readonly Entry[]): Entry {
  const summary = new EntrySummary();
  for (const entry of entries) summary.add(entry);
  return summary.entry();
}
