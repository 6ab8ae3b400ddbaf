import { minor, negate, ZERO } from '../../money';
import { entryOf, type Entry, type EntryLine } from '../entry';
import { invoiceIssued, type InvoiceIssued } from './invoice-issued';

const keyOf = ({ account, because, dimensions }: EntryLine) =>
  JSON.stringify([
    account,
    because.why,
    dimensions ?? [],
    because.why === 'tax-code' ? [because.code, because.rate] : [],
  ]);

/**
 * An issued invoice that is corrected: what the new version books less what the old one did (recipe 1 twice), account by
 * account. Null where both book the same, as when only a text was changed.
 */
export function invoiceCorrected(before: InvoiceIssued, after: InvoiceIssued): Entry | null {
  const totals = new Map<string, { line: EntryLine; amount: number }>();
  const take = (line: EntryLine, amount: number) => {
    const key = keyOf(line);
    const total = totals.get(key);
    if (total) Object.assign(total, { line, amount: total.amount + amount });
    else totals.set(key, { line, amount });
  };
  for (const line of invoiceIssued(before).lines) take(line, negate(line.amount));
  for (const line of invoiceIssued(after).lines) take(line, line.amount);
  const lines = [...totals.values()]
    .filter(({ amount }) => amount !== ZERO)
    .map(({ line, amount }) => ({ ...line, amount: minor(amount) }));
  return lines.length === 0 ? null : entryOf(lines);
}
