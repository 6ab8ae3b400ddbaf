import { askAgain } from '../matching/ask-again';
import { z } from 'zod';
import { invoiceCorrected } from '@/core/ledger';
import { formatAmount, subtract, type Minor } from '@/core/money';
import { done, refuse, type Command } from '../command';
import { balanceMoves } from '../ledger/balances';
import type { EntryView } from '../ledger/entry-view';
import { JournalWriter } from '../ledger/journal-writer';
import { entryView } from '../ledger/posting';
import { receivableOf } from '../matching/channel-bookings';
import { OwedEntries } from '../settling/owed-entries';
import { clockOf, todayOf } from '../setup/today';
import { billInput, textInput, type BillInput } from './bill-input';
import { writeLines } from './issue';
import { issuedEvent, linesOf, workOut } from './work-out';

export interface CorrectInput {
  invoice: number;
  /** The version that was before the eyes of who corrects it. */
  version: number;
  bill: BillInput;
  why: string;
}

export interface CorrectedInvoice {
  readonly version: number;
  /** New gross less old, in minor units. */
  readonly difference: Minor;
  /** The difference in the ledger; null where the ledger stays as it is. */
  readonly entry: EntryView | null;
}

/**
 * Corrects an issued invoice: a new version with the same number and payer, and in the ledger the difference to the one before,
 * dated today. Whatever was handed out earlier keeps the version it was, and so is seen to have changed since.
 */
export const correctInvoice: Command<CorrectInput, CorrectedInvoice> = {
  name: 'correct-invoice',
  input: z.object({
    invoice: z.number().int(),
    version: z.number().int(),
    bill: billInput,
    why: textInput(200),
  }),
  async run(tx, { invoice: id, version, bill, why }, context) {
    const { db } = tx;
    const row = await db.selectFrom('invoice').selectAll().where('id', '=', id).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'invoice', id: String(id) });
    const { number } = row;
    if (row.own === 0 || row.journal_id === null) return refuse({ code: 'not-posted', what: 'invoice', name: number });
    if (row.version !== version) return refuse({ code: 'invoice-changed', invoice: number });
    if (row.credited > 0) return refuse({ code: 'invoice-credited', invoice: number });
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const kept = { ...bill, payer: row.payer_id, issued: row.issued };
    const worked = await workOut(db, kept);
    if ('refusal' in worked) return worked;
    const { net, tax, gross, due } = worked;
    if (gross <= 0) return refuse({ code: 'total-not-positive', gross, currency: books.currency });
    if (gross < row.paid)
      return refuse({ code: 'paid-more', invoice: number, paid: row.paid, currency: books.currency });
    const before = await db
      .selectFrom('invoice_version')
      .select('content')
      .where('invoice_id', '=', id)
      .where('version', '=', version)
      .executeTakeFirstOrThrow();
    if (before.content === JSON.stringify(kept)) {
      return done({ version, difference: 0 as Minor, entry: null }, null);
    }
    const receivable = await receivableOf(db);
    const date = todayOf(books, context.now);
    const entry = invoiceCorrected(
      issuedEvent(number, receivable, await linesOf(db, id)),
      issuedEvent(number, receivable, worked.lines),
    );
    if (entry && books.closed_through !== null && date <= books.closed_through) {
      return refuse({ code: 'period-closed', date, closedThrough: books.closed_through });
    }
    const next = version + 1;
    const difference = subtract(gross, row.gross);
    const planned = { date, memo: `Invoice ${number} corrected, version ${next}`, lines: entry?.lines ?? [] };
    const writer = await JournalWriter.open(tx, context);
    const journal = entry ? writer.write({ ...planned, source: { kind: 'correction', id, revision: next } }) : null;
    writer.flush();
    if (journal !== null) {
      const owed = new OwedEntries(tx);
      owed.owe(id, journal, date, difference, 'corrected');
      await owed.flush();
    }
    const moves = await balanceMoves(db, await writer.finish());
    await writeLines(tx, id, worked.lines);
    await db
      .updateTable('invoice')
      .set({
        net,
        tax,
        gross,
        due,
        version: next,
        discount_rate: worked.discountRate,
        discount_until: worked.discountUntil,
        note: bill.note,
        reference: bill.reference,
        private_note: bill.privateNote,
      })
      .where('id', '=', id)
      .execute();
    await db
      .insertInto('invoice_version')
      .values({
        invoice_id: id,
        version: next,
        content: JSON.stringify(kept),
        net,
        tax,
        gross,
        due,
        made_at: clockOf(books, context.now).toISOString(),
        actor: context.actor.name,
        why,
        journal_id: journal,
      })
      .execute();
    await askAgain(tx, context);
    const sign = difference > 0 ? '+' : '';
    return done(
      { version: next, difference, entry: entry ? await entryView(db, planned, moves) : null },
      `Corrected invoice ${number}, ${difference === 0 ? 'same total' : sign + formatAmount(difference, books.currency)}`,
      {
        command: 'correct-invoice',
        input: {
          invoice: id,
          version: next,
          bill: JSON.parse(before.content) as unknown,
          why: `Back to version ${version}`,
        },
        label: `set invoice ${number} back to version ${version}`,
      },
    );
  },
};
