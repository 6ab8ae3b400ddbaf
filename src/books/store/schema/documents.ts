import type { Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';

export interface ItemTable {
  id: Generated<number>;
  code: string;
  name: string;
  income_account_id: AccountId;
  tax_code_id: number;
  description: Generated<string>;
  price: Generated<Minor | null>;
  unit: Generated<string>;
  archived: Generated<0 | 1>;
  /** The item that is used in its place from now on; its own history stays. */
  merged_into: Generated<number | null>;
}

export interface PayerTable {
  id: Generated<number>;
  name: string;
  email: string;
  merged_into: Generated<number | null>;
  address: Generated<string>;
  country: Generated<string>;
  tax_number: Generated<string>;
  terms_id: Generated<number | null>;
  note: Generated<string>;
  archived: Generated<0 | 1>;
}

export interface PayerAliasTable {
  name: string;
  email: string;
  payer_id: number;
  at_bank: Generated<0 | 1>;
}

export interface ForgottenNameTable {
  payer_id: number;
  name: string;
}

export type ReceiptKind = 'receipt' | 'refund' | 'chargeback';

export interface ReceiptChangeTable {
  receipt_id: number;
  run_id: number;
  kind: ReceiptKind;
  gross: Minor;
  tip: Minor;
  fee: Minor | null;
  occurred_at: string;
  book_date: PlainDate;
  shape: string | null;
}

export interface SummaryTable {
  id: Generated<number>;
  channel_id: number;
  site_id: number | null;
  book_date: PlainDate;
  receipts: number;
  gross: Minor;
  journal_id: number;
}

export type RunKind = 'invoices' | 'receipts' | 'statement' | 'by-hand';

export interface RunTable {
  id: Generated<number>;
  kind: RunKind;
  file_name: string;
  sha256: string;
  bytes: number;
  started_at: string;
  ended_at: string;
  actor: string;
  added: number;
  updated: number;
  known: number;
  refused: number;
  /** How the file was read as a table (JSON); empty where it was none. */
  reading: Generated<string>;
  changed: Generated<number>;
  undone_at: string | null;
}

export interface RunFindingTable {
  run_id: number;
  finding_no: number;
  line: number | null;
  finding: string;
}

export interface PayoutTable {
  id: Generated<number>;
  channel_id: number;
  external_id: string;
  reference_key: string;
  paid_at: string;
  book_date: PlainDate;
  expected_on: PlainDate;
  currency: Currency;
  net: Minor;
  receipt_count: Generated<number>;
  receipt_gross: Generated<Minor>;
  receipt_fee: Generated<Minor>;
  unstated: Generated<number>;
  match_id: number | null;
  run_id: number;
}

export interface ReceiptTable {
  id: Generated<number>;
  channel_id: number;
  external_id: string;
  kind: ReceiptKind;
  occurred_at: string;
  book_date: PlainDate;
  currency: Currency;
  gross: Minor;
  tip: Minor;
  fee: Minor | null;
  payer_id: number | null;
  document: string;
  invoice_id: Generated<number | null>;
  item_id: number | null;
  note: string;
  refund_of: string;
  payout_ref: string;
  payout_id: number | null;
  journal_id: number | null;
  revision: Generated<number>;
  match_id: number | null;
  run_id: number;
  payout_run_id: number | null;
  site_id: Generated<number | null>;
  method: Generated<string>;
  country: Generated<string>;
  region: Generated<string>;
  fund: Generated<string>;
  discount: Generated<Minor>;
  landing: Generated<string | null>;
  aside: Generated<string | null>;
  not_held: Generated<Minor>;
  carried: Generated<Minor | null>;
  payer_said: Generated<string | null>;
}

export interface ReceiptLineTable {
  receipt_id: number;
  line_no: number;
  item_id: number | null;
  description: string;
  units: number;
  gross: Minor;
  discount: Minor;
  tax: Minor | null;
}

export interface ReceiptTenderTable {
  receipt_id: number;
  tender: string;
  amount: Minor;
}
