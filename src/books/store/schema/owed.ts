import type { Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { BasisPoints, Currency, Minor } from '@/core/money';

export interface InvoiceTable {
  id: Generated<number>;
  number: string;
  payer_id: number;
  issued: PlainDate;
  due: PlainDate;
  currency: Currency;
  net: Minor;
  tax: Minor;
  gross: Minor;
  /** What was settled of it, credit notes included. */
  paid: Generated<Minor>;
  journal_id: number | null;
  revision: Generated<number>;
  run_id: number;
  credited: Generated<Minor>;
  discount_rate: Generated<BasisPoints>;
  discount_until: Generated<PlainDate | null>;
  version: Generated<number>;
  note: Generated<string>;
  reference: Generated<string>;
  /** Issued here, with a number of these books. */
  own: Generated<0 | 1>;
  private_note: Generated<string>;
}

export interface InvoiceLineTable {
  invoice_id: number;
  line_no: number;
  item_id: number;
  description: string;
  net: Minor;
  tax_code_id: number;
  tax: Minor;
  quantity: Generated<number>;
  price: Generated<Minor>;
  discount_rate: Generated<BasisPoints>;
  rate: Generated<BasisPoints>;
  dimensions: Generated<string>;
}

export type InvoiceEntryKind = 'issued' | 'corrected' | 'credited' | 'settled' | 'discount' | 'written-off';

export interface InvoiceEntryTable {
  id: Generated<number>;
  invoice_id: number;
  journal_id: number;
  book_date: PlainDate;
  amount: Minor;
  kind: InvoiceEntryKind;
}

export interface CreditEntryTable {
  id: Generated<number>;
  receipt_id: number | null;
  credit_note_id: number | null;
  /** Of what a deposit was over: its line, and whose it is. */
  statement_line_id: Generated<number | null>;
  payer_id: Generated<number | null>;
  journal_id: number;
  book_date: PlainDate;
  amount: Minor;
}

export interface SettlementTable {
  id: Generated<number>;
  book_date: PlainDate;
  made_at: string;
  actor: string;
  journal_id: number | null;
}

export interface TermsTable {
  id: Generated<number>;
  name: string;
  due_days: number;
  discount_rate: BasisPoints;
  discount_days: number;
  archived: Generated<0 | 1>;
}

export interface NumberSeriesTable {
  kind: 'invoice' | 'credit-note';
  year: number;
  last: number;
}

export interface InvoiceDraftTable {
  id: Generated<number>;
  content: string;
  payer_id: number | null;
  gross: Minor;
  changed_at: string;
  actor: string;
  invoice_id: Generated<number | null>;
}

export interface InvoiceVersionTable {
  invoice_id: number;
  version: number;
  content: string;
  net: Minor;
  tax: Minor;
  gross: Minor;
  due: PlainDate;
  made_at: string;
  actor: string;
  why: string;
  journal_id: number | null;
}

export interface HandoutTable {
  id: Generated<number>;
  document: 'invoice' | 'credit-note' | 'receipt';
  document_id: number;
  version: number;
  gross: Minor;
  how: 'mail' | 'pdf' | 'ubl' | 'link';
  given_to: string;
  at: string;
  actor: string;
}

export interface CreditNoteTable {
  id: Generated<number>;
  number: string;
  invoice_id: number;
  issued: PlainDate;
  net: Minor;
  tax: Minor;
  gross: Minor;
  why: string;
  journal_id: number | null;
}

export interface CreditNoteLineTable {
  credit_note_id: number;
  line_no: number;
  invoice_line: number;
  net: Minor;
  tax: Minor;
}

export interface AttachmentTable {
  id: Generated<number>;
  subject: 'invoice' | 'receipt' | 'payer' | 'gift-batch';
  subject_id: number;
  name: string;
  media_type: string;
  bytes: number;
  sha256: string;
  added_at: string;
  actor: string;
  removed_at: string | null;
}

export interface MailAttachmentTable {
  mail_id: number;
  name: string;
  media_type: string;
  content: Uint8Array;
}

export interface PlanTable {
  id: Generated<number>;
  name: string;
  payer_id: number;
  content: string;
  recurrence: string;
  active: 0 | 1;
  bills_from: PlainDate;
  sends: 0 | 1;
  changed_at: string;
  actor: string;
}

export interface PlanRunTable {
  plan_id: number;
  period_from: PlainDate;
  invoice_id: number;
}

export interface PayLinkTable {
  token: string;
  invoice_id: number;
  made_at: string;
}

export interface PaymentTable {
  id: Generated<number>;
  reference: string;
  channel_id: number;
  purpose: 'invoice' | 'gift' | 'registration';
  purpose_id: number;
  amount: Minor;
  begun_at: string;
  external_id: string;
}

export interface GiftBatchTable {
  id: Generated<number>;
  reference: string;
  channel_id: number;
  first_day: PlainDate;
  last_day: PlainDate;
  run_id: number;
}

export interface PublicPageTable {
  id: Generated<number>;
  token: string;
  kind: 'giving' | 'registration';
  title: string;
  channel_id: number;
  content: string;
  open: 0 | 1;
  changed_at: string;
  actor: string;
}

export interface PledgeTable {
  id: Generated<number>;
  page_id: number;
  payer_id: number | null;
  content: string;
  request: string;
  made_at: string;
}

export interface RegistrationTable {
  id: Generated<number>;
  page_id: number;
  payer_id: number;
  invoice_id: number | null;
  places: number;
  request: string;
  content: string;
  made_at: string;
  given_up_at: string | null;
}
