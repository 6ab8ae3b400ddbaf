import { askAgain } from '../matching/ask-again';
import { sql } from 'kysely';
import { z } from 'zod';
import { creditNoteIssued, creditShared, type AccountId } from '@/core/ledger';
import { formatAmount, subtract, sum, ZERO, type Minor } from '@/core/money';
import { invoiceTotals, lineTax } from '@/core/receivables';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { balanceMoves } from '../ledger/balances';
import type { EntryView } from '../ledger/entry-view';
import { JournalWriter } from '../ledger/journal-writer';
import { entryView } from '../ledger/posting';
import { writeReversals } from '../ledger/reversals';
import { receivableOf } from '../matching/channel-bookings';
import { OwedEntries } from '../settling/owed-entries';
import { todayOf } from '../setup/today';
import type { Reading } from '../store';
import { amountInput, textInput } from './bill-input';
import { nextNumber } from './numbers';
import { issuedEvent, linesOf } from './work-out';

export interface CreditInput {
  invoice: number;
  /** Net to take back of each line named; null takes back all that is left of every line. */
  lines: { line: number; net: Minor }[] | null;
  why: string;
  /** Null is today. */
  issued: string | null;
}

export interface CreditedInvoice {
  readonly note: number;
  readonly number: string;
  readonly gross: Minor;
  /** What of it stays with the payer because it was paid. */
  readonly kept: Minor;
  readonly entry: EntryView;
}

/** What of each line is not taken back yet, in minor units, by its number from 1. */
async function leftOf(db: Reading, invoice: number): Promise<{ net: Minor; tax: Minor }[]> {
  const { rows } = await sql<{ net: Minor; tax: Minor }>`
    SELECT l.net - coalesce(sum(c.net), 0) AS net, l.tax - coalesce(sum(c.tax), 0) AS tax
    FROM invoice_line l
    LEFT JOIN credit_note n ON n.invoice_id = l.invoice_id AND n.journal_id IS NOT NULL
    LEFT JOIN credit_note_line c ON c.credit_note_id = n.id AND c.invoice_line = l.line_no
    WHERE l.invoice_id = ${invoice} GROUP BY l.line_no ORDER BY l.line_no
  `.execute(db);
  return rows;
}

/**
 * Takes an invoice back, in whole or in part, by a credit note with a number of its own: at the rates that the invoice was
 * issued with, whatever they are now. What was paid of it already stays with the payer as credit.
 */
export const creditInvoice: Command<CreditInput, CreditedInvoice> = {
  name: 'credit-invoice',
  input: z.object({
    invoice: z.number().int(),
    lines: z
      .array(z.object({ line: z.number().int().positive(), net: amountInput }))
      .min(1)
      .max(500)
      .nullable(),
    why: textInput(200),
    issued: plainDateInput.nullable(),
  }),
  async run(tx, input, context) {
    const { db } = tx;
    const { invoice: id, why } = input;
    const row = await db.selectFrom('invoice').selectAll().where('id', '=', id).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'invoice', id: String(id) });
    if (row.journal_id === null) return refuse({ code: 'not-posted', what: 'invoice', name: row.number });
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const { currency, closed_through: closed } = books;
    const date = (input.issued ?? todayOf(books, context.now)) as typeof row.issued;
    if (date < row.issued) {
      return refuse({ code: 'invalid-input', field: 'issued', expected: 'a day on or after that of the invoice' });
    }
    if (closed !== null && date <= closed) return refuse({ code: 'period-closed', date, closedThrough: closed });
    const left = await leftOf(db, id);
    const worked = await linesOf(db, id);
    const asked = input.lines ?? left.map(({ net }, index) => ({ line: index + 1, net }));
    const taken: { index: number; net: Minor; tax: Minor }[] = [];
    for (const { line, net } of asked) {
      const rest = left[line - 1];
      if (!rest) return refuse({ code: 'not-found', what: `line of invoice ${row.number}`, id: String(line) });
      if (Math.abs(net) > Math.abs(rest.net) || net * rest.net < 0) {
        return refuse({ code: 'credit-too-large', invoice: row.number, line, left: rest.net, currency });
      }
      const tax = net === rest.net ? rest.tax : lineTax(net, worked[line - 1]!.rate);
      if (net !== ZERO || tax !== ZERO) taken.push({ index: line - 1, net, tax });
    }
    if (taken.length === 0) return refuse({ code: 'nothing-to-credit', invoice: row.number });
    const totals = invoiceTotals(taken);
    if (totals.gross <= 0) return refuse({ code: 'total-not-positive', gross: totals.gross, currency });
    const number = await nextNumber(db, 'credit-note', date);
    const receivable = await receivableOf(db);
    const payerCredit = await db
      .selectFrom('account')
      .select('id')
      .where('role', '=', 'payer_credit')
      .executeTakeFirstOrThrow();
    const event = {
      ...issuedEvent(
        number,
        receivable,
        taken.map(({ index, net, tax }) => ({ ...worked[index]!, net, tax })),
      ),
      invoice: row.number,
      open: subtract(row.gross, row.paid),
      payerCredit: payerCredit.id as AccountId,
    };
    const planned = {
      date,
      memo: `Credit note ${number} for invoice ${row.number}`,
      lines: creditNoteIssued(event).lines,
    };
    const { settles, kept } = creditShared(event);
    const { id: note } = await db
      .insertInto('credit_note')
      .values({ number, invoice_id: id, issued: date, ...totals, why, journal_id: null })
      .returning('id')
      .executeTakeFirstOrThrow();
    await db
      .insertInto('credit_note_line')
      .values(
        taken.map(({ index, net, tax }, at) => ({
          credit_note_id: note,
          line_no: at + 1,
          invoice_line: index + 1,
          net,
          tax,
        })),
      )
      .execute();
    const writer = await JournalWriter.open(tx, context);
    const journal = writer.write({ ...planned, source: { kind: 'credit-note', id: note, revision: 1 } });
    writer.flush();
    const owed = new OwedEntries(tx);
    owed.settle(id, journal, date, settles, 'credited');
    owed.keep({ note }, journal, date, kept);
    await owed.flush();
    const moves = await balanceMoves(db, await writer.finish());
    await db.updateTable('credit_note').set({ journal_id: journal }).where('id', '=', note).execute();
    await sql`UPDATE invoice SET credited = credited + ${totals.gross} WHERE id = ${id}`.execute(db);
    await askAgain(tx, context);
    const whole = row.credited + totals.gross >= row.gross;
    return done(
      { note, number, gross: totals.gross, kept, entry: await entryView(db, planned, moves) },
      `${whole ? 'Voided' : 'Credited'} invoice ${row.number} by credit note ${number}, ${formatAmount(totals.gross, currency)}`,
      { command: 'withdraw-credit-note', input: { note }, label: `withdraw credit note ${number}` },
    );
  },
};

/** Withdraws a credit note by the opposite entry: its number stays, and says so. */
export const withdrawCreditNote: Command<{ note: number }, null> = {
  name: 'withdraw-credit-note',
  input: z.object({ note: z.number().int() }),
  async run(tx, { note }, context) {
    const { db } = tx;
    const row = await db.selectFrom('credit_note').selectAll().where('id', '=', note).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'credit note', id: String(note) });
    if (row.journal_id === null) return refuse({ code: 'not-posted', what: 'credit note', name: row.number });
    const entries = await db
      .selectFrom('credit_entry')
      .select(['amount', 'journal_id'])
      .where('credit_note_id', '=', note)
      .execute();
    const given = sum(entries.filter(({ journal_id: by }) => by === row.journal_id).map(({ amount }) => amount));
    if (sum(entries.map(({ amount }) => amount)) < given) return refuse({ code: 'credit-used', name: row.number });
    const writer = await JournalWriter.open(tx, context);
    await writeReversals(tx, writer, [row.journal_id]);
    await writer.finish();
    await db.updateTable('credit_note').set({ journal_id: null }).where('id', '=', note).execute();
    await sql`UPDATE invoice SET credited = credited - ${row.gross} WHERE id = ${row.invoice_id}`.execute(db);
    await askAgain(tx, context);
    const lines = await db
      .selectFrom('credit_note_line')
      .select(['invoice_line as line', 'net'])
      .where('credit_note_id', '=', note)
      .execute();
    return done(null, `Withdrew credit note ${row.number}`, {
      command: 'credit-invoice',
      input: { invoice: row.invoice_id, lines, why: row.why, issued: null },
      label: 'issue a credit note again',
    });
  },
};
