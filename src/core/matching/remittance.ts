import { add } from '../money';
import { found, InvoiceBook, type Found, type Payment } from './invoice-book';
import type { OpenInvoice } from './invoice-ways';
import type { NameFinder } from './names';
import { nothing, type Certainty, type Proposal, type ProposedPart, type Reason } from './proposal';

/** A statement line that may settle invoices: one payment, or a sum of several. */
export interface Remittance extends Payment {
  readonly id: number;
  /** The payments of a line that is a sum. */
  readonly details: readonly Payment[];
}

const ORDER: readonly Certainty[] = ['none', 'open', 'probable', 'proven'];

/** A sum of several payments: each is explained for itself, and the sum is as sure as the least sure of them. */
function ofDetails(book: InvoiceBook, line: Remittance): Found {
  const each = line.details.map((payment) => book.explain(payment));
  const laid = each.flatMap((one) => (one.laid ? [one.laid] : []));
  const parts = new Map<number, ProposedPart>();
  for (const part of laid.flatMap((one) => one.parts)) {
    const before = parts.get(part.id);
    if (part.kind !== 'invoice' || before?.kind !== 'invoice') parts.set(part.id, part);
    else parts.set(part.id, { ...part, amount: add(before.amount, part.amount) });
  }
  const said: Reason = { kind: 'payments-of-sum', count: each.length, found: laid.length };
  const reasons = [said, ...laid.flatMap((one) => one.reasons.filter(({ kind }) => kind === 'numbers-in-text'))];
  const least = ORDER[Math.min(...each.map(({ certainty }) => ORDER.indexOf(certainty)))]!;
  if (laid.length === each.length) return found(least, { parts: [...parts.values()], reasons });
  return laid.length === 0 ? found('none', null) : found('open', { parts: [...parts.values()], reasons });
}

/**
 * Proposes invoices for payments that came in. An invoice is laid no further than it is open: where several payments claim one,
 * none of them is sure of it.
 */
export function proposeInvoices(
  lines: readonly Remittance[],
  invoices: readonly OpenInvoice[],
  names: NameFinder,
): Proposal[] {
  const book = new InvoiceBook(invoices, names);
  const proposals = [...lines]
    .sort((a, b) => a.id - b.id)
    .map((line): Proposal => {
      if (line.amount <= 0) return nothing(line.id);
      return { line: line.id, ...(line.details.length > 0 ? ofDetails(book, line) : book.explain(line)) };
    });
  const claimed = new Map<number, number>();
  for (const part of proposals.flatMap(({ laid }) => laid?.parts ?? [])) {
    if (part.kind === 'invoice') claimed.set(part.id, (claimed.get(part.id) ?? 0) + part.amount);
  }
  const of = new Map(invoices.map((invoice) => [invoice.id, invoice]));
  return proposals.map((proposal): Proposal => {
    const contested = proposal.laid?.parts.find(
      (part) => part.kind === 'invoice' && claimed.get(part.id)! > of.get(part.id)!.open,
    );
    if (!contested || !proposal.laid) return proposal;
    const why: Reason = { kind: 'also-claimed', number: of.get(contested.id)!.number };
    return { ...proposal, certainty: 'open', laid: null, reasons: [why], others: [proposal.laid, ...proposal.others] };
  });
}
