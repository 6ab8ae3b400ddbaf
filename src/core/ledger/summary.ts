import { add, type Minor } from '../money';
import type { Because } from './because';
import type { Entry, EntryLine } from './entry';

/**
 * What of a reason a summary keeps apart: kind and tax code. Documents and payers stay with their receipts, and which
 * layer of the map decided is counted, not split by.
 */
function groupOf(because: Because): string {
  return because.why === 'tax-code' ? `${because.why} ${because.code} ${because.rate}` : because.why;
}

/** The reason without the document or payer it names. */
function general(because: Because): Because {
  switch (because.why) {
    case 'settles-invoice':
    case 'over-invoice':
    case 'unknown-document':
      return { ...because, document: '' };
    case 'refund':
    case 'chargeback':
    case 'chargeback-won':
      return { ...because, of: '' };
    default:
      return because;
  }
}

interface Gathered {
  readonly line: EntryLine;
  amount: Minor;
  foreign: Minor | null;
  count: number;
  /** Reasons met, as text: few, since what names a document is made general first. */
  readonly reasons: Set<string>;
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
      const because = general(line.because);
      const side = line.amount > 0 ? 'debit' : 'credit';
      const key = JSON.stringify([line.account, side, line.foreign?.currency, line.dimensions ?? [], groupOf(because)]);
      const reason = JSON.stringify(because);
      const group = this.groups.get(key);
      if (group === undefined) {
        this.groups.set(key, {
          line: { ...line, because },
          amount: line.amount,
          foreign: line.foreign?.amount ?? null,
          count: 1,
          reasons: new Set([reason]),
        });
      } else {
        group.amount = add(group.amount, line.amount);
        if (line.foreign) group.foreign = add(group.foreign!, line.foreign.amount);
        group.count++;
        group.reasons.add(reason);
      }
    }
  }

  /** Debits first, as a reader of an entry expects them; within a side in the order in which they came up. */
  entry(): Entry {
    const lines = [...this.groups.values()].map(({ line, amount, foreign, count, reasons }) => ({
      ...line,
      amount,
      ...(line.foreign && { foreign: { ...line.foreign, amount: foreign! } }),
      because: { why: 'summary', count, of: line.because, others: reasons.size - 1 } as const,
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
