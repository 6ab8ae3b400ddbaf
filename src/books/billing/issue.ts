import { askAgain } from '../matching/ask-again';
import { z } from 'zod';
import { formatAmount, type Minor } from '@/core/money';
import { done, refuse, type Command, type CommandContext, type Outcome, type Refusal } from '../command';
import { beginHandRun } from '../imports/hand-run';
import { writeInvoices } from '../invoices/post';
import { JournalWriter } from '../ledger/journal-writer';
import { PostingReport, type Posting } from '../ledger/posting';
import { clockOf } from '../setup/today';
import type { Writing } from '../store';
import { billInput, type BillInput } from './bill-input';
import { issuedAs } from './drafts';
import { nextNumber } from './numbers';
import { withItemsOfNow, workOut, type WorkedOut } from './work-out';

export interface IssuedInvoice {
  readonly invoice: number;
  readonly number: string;
  readonly gross: Minor;
  readonly posting: Posting;
}

/** What of a bill's payer stands in the way of issuing to them. */
async function payerRefusal({ db }: Writing, payer: number | null): Promise<Refusal | null> {
  if (payer === null) return { code: 'invalid-input', field: 'payer', expected: 'somebody who owes it' };
  const row = await db
    .selectFrom('payer')
    .select(['name', 'archived', 'merged_into'])
    .where('id', '=', payer)
    .executeTakeFirst();
  if (!row || row.merged_into !== null) return { code: 'not-found', what: 'payer', id: String(payer) };
  return row.archived === 1 ? { code: 'archived', what: 'payer', name: row.name } : null;
}

/** Writes the lines of an invoice as they were worked out. */
export async function writeLines({ db }: Writing, invoice: number, lines: WorkedOut['lines']): Promise<void> {
  await db.deleteFrom('invoice_line').where('invoice_id', '=', invoice).execute();
  await db
    .insertInto('invoice_line')
    .values(
      lines.map((line, index) => ({
        invoice_id: invoice,
        line_no: index + 1,
        item_id: line.item,
        description: line.description,
        net: line.net,
        tax_code_id: line.taxCode,
        tax: line.tax,
        quantity: line.quantity,
        price: line.price,
        discount_rate: line.discount,
        rate: line.rate,
        dimensions: JSON.stringify(line.dimensions),
      })),
    )
    .execute();
}

/**
 * Issues a bill: gives it the next number, writes it and its first version, and posts it (recipe 1), all in the transaction it
 * is called in. Used by whoever issues: a person, a plan, a registration.
 */
export async function issueBill(
  tx: Writing,
  bill: BillInput,
  context: CommandContext,
): Promise<{ readonly refusal: Refusal } | IssuedInvoice> {
  const { db } = tx;
  const refused = await payerRefusal(tx, bill.payer);
  if (refused) return { refusal: refused };
  const worked = await workOut(db, await withItemsOfNow(db, bill));
  if ('refusal' in worked) return worked;
  const books = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const { currency, closed_through: closed } = books;
  if (worked.gross <= 0) return { refusal: { code: 'total-not-positive', gross: worked.gross, currency } };
  if (closed !== null && bill.issued <= closed) {
    return { refusal: { code: 'period-closed', date: bill.issued, closedThrough: closed } };
  }
  const number = await nextNumber(db, 'invoice', bill.issued);
  const { net, tax, gross, due } = worked;
  const { id } = await db
    .insertInto('invoice')
    .values({
      number,
      payer_id: bill.payer!,
      issued: bill.issued,
      due,
      currency,
      net,
      tax,
      gross,
      journal_id: null,
      run_id: await beginHandRun(db, context),
      discount_rate: worked.discountRate,
      discount_until: worked.discountUntil,
      note: bill.note,
      reference: bill.reference,
      private_note: bill.privateNote,
      own: 1,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await writeLines(tx, id, worked.lines);
  const made = { made_at: clockOf(books, context.now).toISOString(), actor: context.actor.name };
  await db
    .insertInto('invoice_version')
    .values({
      invoice_id: id,
      version: 1,
      content: JSON.stringify(bill),
      net,
      tax,
      gross,
      due,
      ...made,
      why: '',
      journal_id: null,
    })
    .execute();
  const report = new PostingReport(await JournalWriter.open(tx, context));
  await writeInvoices(tx, { ids: [id] }, context, report);
  // A receipt may have named this number before the invoice was here.
  await db
    .updateTable('receipt')
    .set({ invoice_id: id })
    .where('document', '=', number)
    .where('invoice_id', 'is', null)
    .execute();
  return { invoice: id, number, gross, posting: await report.finish(db) };
}

const issueInput = z.object({ draft: z.number().int(), bill: billInput });

/**
 * Issues a draft. A draft becomes one invoice: sent off twice, or again after going back, it is refused and the invoice named.
 */
export const issueInvoice: Command<{ draft: number; bill: BillInput }, IssuedInvoice> = {
  name: 'issue-invoice',
  input: issueInput,
  async run(tx, { draft, bill }, context): Promise<Outcome<IssuedInvoice>> {
    const { db } = tx;
    const row = await db.selectFrom('invoice_draft').select('invoice_id').where('id', '=', draft).executeTakeFirst();
    if (!row) return refuse({ code: 'not-found', what: 'draft', id: String(draft) });
    if (row.invoice_id !== null) return refuse(await issuedAs(db, row.invoice_id));
    const issued = await issueBill(tx, bill, context);
    if ('refusal' in issued) return issued;
    await db
      .updateTable('invoice_draft')
      .set({ invoice_id: issued.invoice, content: JSON.stringify(bill) })
      .where('id', '=', draft)
      .execute();
    await askAgain(tx, context);
    const { currency } = await db.selectFrom('books').select('currency').executeTakeFirstOrThrow();
    return done(issued, `Issued invoice ${issued.number}, ${formatAmount(issued.gross, currency)}`, {
      command: 'credit-invoice',
      input: { invoice: issued.invoice, lines: null, why: 'Issued by mistake', issued: null },
      label: `void invoice ${issued.number} by a credit note`,
    });
  },
};

/** What issuing a bill would write, for its dry run beside the form: it is never run for good. */
export const previewBill: Command<{ bill: BillInput }, IssuedInvoice> = {
  name: 'preview-bill',
  input: z.object({ bill: billInput }),
  async run(tx, { bill }, context) {
    const issued = await issueBill(tx, bill, context);
    return 'refusal' in issued ? issued : done(issued, null);
  },
};
