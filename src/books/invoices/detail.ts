import { sql } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import { invoiceState, type InvoiceState } from '@/core/receivables';
import { subtract, type Minor } from '@/core/money';
import { attachmentsOf, type AttachmentView } from '../billing/attachments';
import { linesOf, type WorkedLine } from '../billing/work-out';
import { earlyPayments } from '../settling/early';
import type { HandoutTable, InvoiceEntryKind, Reading } from '../store';

/** How an invoice was moved on the receivable, entry by entry. */
export interface InvoiceMove {
  readonly date: PlainDate;
  readonly kind: InvoiceEntryKind;
  /** Debits positive, minor units. */
  readonly amount: Minor;
  readonly journal: number;
  readonly memo: string;
}

export interface InvoiceVersionView {
  readonly version: number;
  readonly gross: Minor;
  readonly at: string;
  readonly actor: string;
  readonly why: string;
  readonly journal: number | null;
}

/** What was given to somebody, and whether the invoice has changed since. */
export interface HandoutView {
  readonly at: string;
  readonly how: HandoutTable['how'];
  readonly to: string;
  readonly version: number;
  readonly gross: Minor;
  readonly changedSince: boolean;
}

export interface CreditNoteView {
  readonly id: number;
  readonly number: string;
  readonly issued: PlainDate;
  readonly gross: Minor;
  readonly why: string;
  readonly journal: number | null;
}

/** One invoice with its lines and its history. Amounts in minor units. */
export interface InvoiceDetail {
  readonly id: number;
  readonly number: string;
  readonly payerId: number;
  readonly payer: string;
  readonly email: string;
  readonly issued: PlainDate;
  readonly due: PlainDate;
  readonly net: Minor;
  readonly tax: Minor;
  readonly gross: Minor;
  readonly paid: Minor;
  readonly credited: Minor;
  readonly state: InvoiceState;
  readonly journal: number | null;
  readonly own: boolean;
  readonly version: number;
  readonly reference: string;
  readonly note: string;
  readonly privateNote: string;
  /** The file it came from; empty where it was issued here. */
  readonly file: string;
  readonly early: { readonly until: PlainDate; readonly discount: Minor } | null;
  readonly lines: readonly WorkedLine[];
  readonly moves: readonly InvoiceMove[];
  readonly versions: readonly InvoiceVersionView[];
  readonly handouts: readonly HandoutView[];
  readonly creditNotes: readonly CreditNoteView[];
  readonly attachments: readonly AttachmentView[];
  readonly payLink: string | null;
}

async function history(db: Reading, id: number, version: number) {
  const { rows: moves } = await sql<InvoiceMove>`
    SELECT e.book_date AS date, e.kind, e.amount, e.journal_id AS journal, j.memo
    FROM invoice_entry e JOIN journal j ON j.id = e.journal_id WHERE e.invoice_id = ${id}
    ORDER BY e.book_date, e.id LIMIT 200
  `.execute(db);
  const versions = await db
    .selectFrom('invoice_version')
    .select(['version', 'gross', 'made_at as at', 'actor', 'why', 'journal_id as journal'])
    .where('invoice_id', '=', id)
    .orderBy('version', 'desc')
    .execute();
  const given = await db
    .selectFrom('handout')
    .select(['at', 'how', 'given_to as to', 'version', 'gross'])
    .where('document', '=', 'invoice')
    .where('document_id', '=', id)
    .orderBy('id', 'desc')
    .limit(50)
    .execute();
  const creditNotes = await db
    .selectFrom('credit_note')
    .select(['id', 'number', 'issued', 'gross', 'why', 'journal_id as journal'])
    .where('invoice_id', '=', id)
    .orderBy('id')
    .execute();
  const link = await db.selectFrom('pay_link').select('token').where('invoice_id', '=', id).executeTakeFirst();
  return {
    moves,
    versions,
    handouts: given.map((one) => ({ ...one, changedSince: one.version < version })),
    creditNotes,
    attachments: await attachmentsOf(db, 'invoice', id),
    payLink: link?.token ?? null,
  };
}

export async function invoiceDetail(db: Reading, id: number, today: PlainDate): Promise<InvoiceDetail | null> {
  const row = await db
    .selectFrom('invoice')
    .innerJoin('payer', 'payer.id', 'invoice.payer_id')
    .innerJoin('run', 'run.id', 'invoice.run_id')
    .selectAll('invoice')
    .select(['payer.name as payer', 'payer.email', 'run.file_name as file'])
    .where('invoice.id', '=', id)
    .executeTakeFirst();
  if (!row) return null;
  const { number, payer, email, issued, due, net, tax, gross, paid, credited, version, reference, note, file } = row;
  const early = (await earlyPayments(db, [id])).get(id);
  const until = row.discount_until;
  const discount = early && until ? early.asked(subtract(gross, paid), until).discount : 0;
  return {
    ...{ id, number, payer, email, issued, due, net, tax, gross, paid, credited, version, reference, note, file },
    payerId: row.payer_id,
    privateNote: row.private_note,
    journal: row.journal_id,
    own: row.own === 1,
    state: invoiceState({ ...row, posted: row.journal_id !== null }, today),
    early: until && discount > 0 ? { until, discount: discount as Minor } : null,
    lines: await linesOf(db, id),
    ...(await history(db, id, version)),
  };
}
