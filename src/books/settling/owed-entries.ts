import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { negate, ZERO, type Minor } from '@/core/money';
import type { BulkInsert, InvoiceEntryKind, Writing } from '../store';

/** Whose credit it is: what a receipt or a deposit was over, or what a credit note took back of what was paid. */
export type CreditSource =
  { readonly receipt: number } | { readonly note: number } | { readonly line: number; readonly payer: number };

/**
 * Writes what journals do to invoices and to what is kept for payers, in bulk. It holds back what it is given: the journals must
 * be written before {@link flush}, which also brings what is paid of each invoice up to date.
 */
export class OwedEntries {
  private readonly invoices;
  private readonly credits;
  private heldInvoices: Parameters<BulkInsert['add']>[] = [];
  private heldCredits: Parameters<BulkInsert['add']>[] = [];
  private settled = new Map<number, number>();

  constructor(private readonly tx: Writing) {
    this.invoices = tx.bulk('invoice_entry', ['invoice_id', 'journal_id', 'book_date', 'amount', 'kind']);
    this.credits = tx.bulk('credit_entry', [
      'receipt_id',
      'credit_note_id',
      'statement_line_id',
      'payer_id',
      'journal_id',
      'book_date',
      'amount',
    ]);
  }

  /** A movement of an invoice on the receivable: a debit is positive. */
  owe(invoice: number, journal: number, date: PlainDate, amount: Minor, kind: InvoiceEntryKind): void {
    if (amount === ZERO) return;
    this.heldInvoices.push([invoice, journal, date, amount, kind]);
    if (kind === 'issued' || kind === 'corrected') return;
    this.settled.set(invoice, (this.settled.get(invoice) ?? 0) - amount);
  }

  /** Settles so much of an invoice; below zero it is open again. */
  settle(invoice: number, journal: number, date: PlainDate, amount: Minor, kind: InvoiceEntryKind = 'settled'): void {
    this.owe(invoice, journal, date, negate(amount), kind);
  }

  /** So much more is kept for a payer; below zero it is used or paid back. */
  keep(source: CreditSource, journal: number, date: PlainDate, amount: Minor): void {
    if (amount === ZERO) return;
    const of = { receipt: null, note: null, line: null, payer: null, ...source };
    this.heldCredits.push([of.receipt, of.note, of.line, of.payer, journal, date, amount]);
  }

  async flush(): Promise<void> {
    for (const row of this.heldInvoices) this.invoices.add(...row);
    for (const row of this.heldCredits) this.credits.add(...row);
    this.invoices.flush();
    this.credits.flush();
    [this.heldInvoices, this.heldCredits] = [[], []];
    if (this.settled.size === 0) return;
    const rows = JSON.stringify([...this.settled]);
    await sql`
      UPDATE invoice SET paid = paid + t.amount
      FROM (SELECT value ->> 0 AS id, value ->> 1 AS amount FROM json_each(${rows})) AS t WHERE invoice.id = t.id
    `.execute(this.tx.db);
    this.settled = new Map();
  }
}
