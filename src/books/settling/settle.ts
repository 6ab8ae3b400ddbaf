import { askAgain } from '../matching/ask-again';
import { sql } from 'kysely';
import { z } from 'zod';
import type { PlainDate } from '@/core/calendar';
import { creditApplied, settledWhole, type AccountId, type DiscountShare, type Settled } from '@/core/ledger';
import { add, formatAmount, subtract, sum, ZERO, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { amountInput } from '../billing/bill-input';
import { done, refuse, type Command } from '../command';
import { plainDateInput } from '../command/plain-date-input';
import { balanceMoves } from '../ledger/balances';
import type { EntryView } from '../ledger/entry-view';
import { JournalWriter } from '../ledger/journal-writer';
import { entryView } from '../ledger/posting';
import { writeReversals } from '../ledger/reversals';
import { todayOf } from '../setup/today';
import type { Reading } from '../store';
import { earlyPayments } from './early';
import { OwedEntries, type CreditSource } from './owed-entries';

const source = z.union([
  z.object({ receipt: z.number().int() }),
  z.object({ note: z.number().int() }),
  z.object({ line: z.number().int(), payer: z.number().int() }),
]);

export interface SettleInput {
  /** Where the money is: credit of receipts and credit notes, used in this order. */
  from: CreditSource[];
  to: {
    invoice: number;
    amount: Minor;
    /** Take the discount for paying early, which the day of the money must allow. */
    discount: boolean;
    /** Write this off beside it. */
    writeOff: Minor;
  }[];
  /** Null is today. */
  date: PlainDate | null;
}

export const settleInput = z.object({
  from: z.array(source).min(1).max(100),
  to: z
    .array(
      z.object({
        invoice: z.number().int(),
        amount: amountInput.refine((amount) => amount >= 0, 'nothing below zero'),
        discount: z.boolean(),
        writeOff: amountInput.refine((amount) => amount >= 0, 'nothing below zero'),
      }),
    )
    .min(1)
    .max(500),
  date: plainDateInput.nullable(),
});

export interface SettledView {
  readonly settlement: number;
  readonly amount: Minor;
  readonly entry: EntryView;
}

interface Credit {
  readonly source: CreditSource;
  readonly name: string;
  readonly date: PlainDate;
  left: Minor;
}

async function creditOf(db: Reading, one: CreditSource): Promise<Credit | null> {
  const { rows } =
    'receipt' in one
      ? await sql<{ name: string; date: PlainDate; left: Minor }>`
          SELECT 'Receipt ' || r.external_id AS name, r.book_date AS date, coalesce(sum(c.amount), 0) AS left
          FROM receipt r LEFT JOIN credit_entry c ON c.receipt_id = r.id WHERE r.id = ${one.receipt} GROUP BY r.id
        `.execute(db)
      : 'line' in one
        ? await sql<{ name: string; date: PlainDate; left: Minor }>`
          SELECT 'Deposit of ' || l.book_date AS name, l.book_date AS date, coalesce(sum(c.amount), 0) AS left
          FROM statement_line l LEFT JOIN credit_entry c ON c.statement_line_id = l.id WHERE l.id = ${one.line} GROUP BY l.id
        `.execute(db)
        : await sql<{ name: string; date: PlainDate; left: Minor }>`
          SELECT 'Credit note ' || n.number AS name, n.issued AS date, coalesce(sum(c.amount), 0) AS left
          FROM credit_note n LEFT JOIN credit_entry c ON c.credit_note_id = n.id WHERE n.id = ${one.note} GROUP BY n.id
        `.execute(db);
  return rows[0] ? { source: one, ...rows[0] } : null;
}

async function roleOf(db: Reading, role: 'receivable' | 'payer_credit' | 'discounts' | 'rounding') {
  const row = await db.selectFrom('account').select('id').where('role', '=', role).orderBy('id').executeTakeFirst();
  return (row?.id ?? null) as AccountId | null;
}

/**
 * Puts what is kept for a payer to invoices: part, whole, several, with the discount for paying early where the money came in
 * time (recipe 13) and a small remainder written off up to the limit (recipe 24). One entry, and undone as one.
 */
export const settleInvoices: Command<SettleInput, SettledView> = {
  name: 'settle-invoices',
  input: settleInput,
  async run(tx, input, context) {
    const { db } = tx;
    const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const { currency, closed_through: closed, write_off_limit: limit } = books;
    const credits: Credit[] = [];
    for (const one of input.from) {
      const credit = await creditOf(db, one);
      if (!credit) return refuse({ code: 'not-found', what: 'credit', id: JSON.stringify(one) });
      credits.push(credit);
    }
    // Money is put to invoices on the day it is decided, and never before it came.
    const latest = credits.reduce((day, credit) => (credit.date > day ? credit.date : day), credits[0]!.date);
    const today = todayOf(books, context.now);
    const date = input.date ?? (today > latest ? today : latest);
    if (date < latest)
      return refuse({ code: 'invalid-input', field: 'date', expected: 'no day before the money came' });
    if (closed !== null && date <= closed) return refuse({ code: 'period-closed', date, closedThrough: closed });
    const ids = input.to.map(({ invoice }) => invoice);
    if (new Set(ids).size < ids.length)
      return refuse({ code: 'invalid-input', field: 'to', expected: 'each invoice once' });
    const rows = await db.selectFrom('invoice').selectAll().where('id', 'in', ids).execute();
    const early = await earlyPayments(db, ids);
    const settled: (Settled & { readonly invoice: number; readonly off: Minor })[] = [];
    for (const { invoice, amount, discount, writeOff } of input.to) {
      const row = rows.find(({ id }) => id === invoice);
      if (!row) return refuse({ code: 'not-found', what: 'invoice', id: String(invoice) });
      if (row.journal_id === null) return refuse({ code: 'not-posted', what: 'invoice', name: row.number });
      if (writeOff > limit) return refuse({ code: 'write-off-limit', asked: writeOff, limit, currency });
      const open = subtract(row.gross, row.paid);
      // In time is when the money came, not when somebody gets to it.
      const shares = discount ? early.get(invoice)?.taken(add(amount, writeOff), open, latest) : [];
      if (!shares) return refuse({ code: 'no-discount', invoice: row.number });
      const one = { document: row.number, amount, discount: shares as readonly DiscountShare[], writtenOff: writeOff };
      const whole = settledWhole(one);
      if (whole > open) return refuse({ code: 'settles-too-much', invoice: row.number, open, asked: whole, currency });
      if (whole <= ZERO) return refuse({ code: 'invalid-input', field: 'amount', expected: 'more than nothing' });
      settled.push({ ...one, invoice, off: subtract(subtract(whole, amount), writeOff) });
    }
    const asked = sum(settled.map(({ amount }) => amount));
    const left = sum(credits.map((credit) => credit.left));
    if (asked > left) {
      const name = credits.length === 1 ? credits[0]!.name : plural(credits.length, 'receipt');
      return refuse({ code: 'not-enough-credit', name, left, asked, currency });
    }
    const [discounts, rounding] = [await roleOf(db, 'discounts'), await roleOf(db, 'rounding')];
    if (discounts === null && settled.some(({ off }) => off !== ZERO))
      return refuse({ code: 'role-missing', role: 'discounts' });
    if (rounding === null && settled.some(({ writtenOff }) => writtenOff !== ZERO))
      return refuse({ code: 'role-missing', role: 'rounding' });
    const entry = creditApplied({
      payerCredit: (await roleOf(db, 'payer_credit'))!,
      receivable: (await roleOf(db, 'receivable'))!,
      discounts,
      rounding,
      settled,
    });
    const at = { book_date: date, made_at: context.now.toISOString(), actor: context.actor.name };
    const { id } = await db
      .insertInto('settlement')
      .values({ ...at, journal_id: null })
      .returning('id')
      .executeTakeFirstOrThrow();
    const documents = settled.map(({ document }) => document).join(', ');
    const planned = { date, memo: `Credit put to ${documents}`.slice(0, 200), lines: entry.lines };
    const writer = await JournalWriter.open(tx, context);
    const journal = writer.write({ ...planned, source: { kind: 'settlement', id, revision: 1 } });
    writer.flush();
    const owed = new OwedEntries(tx);
    for (const { invoice, amount, off, writtenOff } of settled) {
      owed.settle(invoice, journal, date, amount);
      owed.settle(invoice, journal, date, off, 'discount');
      owed.settle(invoice, journal, date, writtenOff, 'written-off');
    }
    let rest = asked;
    for (const { source: of, left: has } of credits) {
      const used = has < rest ? has : rest;
      owed.keep(of, journal, date, (0 - used) as Minor);
      rest = subtract(rest, used);
    }
    await owed.flush();
    const moves = await balanceMoves(db, await writer.finish());
    await db.updateTable('settlement').set({ journal_id: journal }).where('id', '=', id).execute();
    await askAgain(tx, context);
    return done(
      { settlement: id, amount: asked, entry: await entryView(db, planned, moves) },
      `Put ${formatAmount(asked, currency)} to ${settled.length === 1 ? `invoice ${documents}` : plural(settled.length, 'invoice')}`,
      { command: 'undo-settlement', input: { settlement: id, again: { ...input, date } }, label: 'take it off again' },
    );
  },
};

/** Takes a settlement back by the opposite entry: the invoices are open again, and the credit is the payer's. */
export const undoSettlement: Command<{ settlement: number; again: SettleInput }, null> = {
  name: 'undo-settlement',
  input: z.object({ settlement: z.number().int(), again: settleInput }),
  async run(tx, { settlement, again }, context) {
    const { db } = tx;
    const row = await db.selectFrom('settlement').selectAll().where('id', '=', settlement).executeTakeFirst();
    if (!row || row.journal_id === null) return refuse({ code: 'nothing-to-undo' });
    const writer = await JournalWriter.open(tx, context);
    await writeReversals(tx, writer, [row.journal_id]);
    await writer.finish();
    await db.updateTable('settlement').set({ journal_id: null }).where('id', '=', settlement).execute();
    await askAgain(tx, context);
    return done(null, 'Took a settlement back', {
      command: 'settle-invoices',
      input: again,
      label: 'put it there again',
    });
  },
};
