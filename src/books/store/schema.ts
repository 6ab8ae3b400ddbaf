import type { ColumnType, Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountClass, AccountId, AccountRole } from '@/core/ledger';
import type { BasisPoints, Currency, Minor } from '@/core/money';

/** A column that is written once: an update of it does not compile. */
type Fixed<T> = ColumnType<T, T, never>;

export interface BooksTable {
  id: number;
  name: string;
  currency: Currency;
  zone: string;
  country: string;
  closed_through: PlainDate | null;
  fixed_today: PlainDate | null;
}

export interface AccountTable {
  id: Generated<AccountId>;
  code: string;
  name: string;
  class: AccountClass;
  role: AccountRole | null;
  currency: Currency;
}

export interface TaxCodeTable {
  id: Generated<number>;
  code: string;
  name: string;
  rate: BasisPoints;
  account_id: AccountId;
}

export interface ItemTable {
  id: Generated<number>;
  code: string;
  name: string;
  income_account_id: AccountId;
  tax_code_id: number;
}

export interface PayerTable {
  id: Generated<number>;
  name: string;
  email: string;
}

export interface ChannelTable {
  id: Generated<number>;
  name: string;
  currency: Currency;
  clearing_account_id: AccountId;
  bank_account_id: AccountId;
  fee_account_id: AccountId;
  refund_account_id: AccountId;
  tips_account_id: AccountId;
  income_account_id: AccountId;
  tax_code_id: number;
  fee_rate: BasisPoints;
  fee_fixed: Minor;
  payout_days: number;
}

export interface BankAccountTable {
  account_id: AccountId;
  iban: string;
  currency: Currency;
}

export type JournalSource = 'opening' | 'invoice' | 'receipt' | 'summary' | 'match' | 'reversal';

export interface SealTable {
  id: Fixed<number>;
  first_journal: Fixed<number>;
  last_journal: Fixed<number>;
}

export interface JournalTable {
  id: Fixed<number>;
  seal_id: Fixed<number>;
  book_date: Fixed<PlainDate>;
  source_kind: Fixed<JournalSource>;
  source_id: Fixed<number>;
  revision: Fixed<number>;
  reverses_id: Fixed<number | null>;
  memo: Fixed<string>;
  posted_at: Fixed<string>;
  actor: Fixed<string>;
}

export interface JournalLineTable {
  journal_id: Fixed<number>;
  line_no: Fixed<number>;
  account_id: Fixed<AccountId>;
  book_date: Fixed<PlainDate>;
  amount: Fixed<Minor>;
  currency: Fixed<Currency>;
  base_amount: Fixed<Minor>;
  because: Fixed<string>;
}

export interface AccountDayTable {
  account_id: AccountId;
  day: PlainDate;
  debit: Minor;
  credit: Minor;
  lines: number;
}

export interface AuditTable {
  id: Generated<number>;
  at: string;
  actor: string;
  command: string;
  summary: string;
  detail: string;
  undo: string | null;
  undoes: number | null;
}

export type RunKind = 'invoices' | 'receipts' | 'statement';

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
  undone_at: string | null;
}

export interface RunFindingTable {
  run_id: number;
  finding_no: number;
  line: number | null;
  finding: string;
}

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
  paid: Generated<Minor>;
  journal_id: number | null;
  revision: Generated<number>;
  run_id: number;
}

export interface InvoiceLineTable {
  invoice_id: number;
  line_no: number;
  item_id: number;
  description: string;
  net: Minor;
  tax_code_id: number;
  tax: Minor;
}

export interface AllocationTable {
  id: Generated<number>;
  invoice_id: number;
  journal_id: number;
  amount: Minor;
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
  match_id: number | null;
  run_id: number;
}

export interface ReceiptTable {
  id: Generated<number>;
  channel_id: number;
  external_id: string;
  kind: 'receipt' | 'refund';
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
}

export interface StatementTable {
  id: Generated<number>;
  account_id: AccountId;
  reference: string;
  opening: Minor;
  closing: Minor;
  first_day: PlainDate | null;
  last_day: PlainDate | null;
  run_id: number;
}

export interface StatementLineTable {
  id: Generated<number>;
  statement_id: number;
  account_id: AccountId;
  book_date: PlainDate;
  value_date: PlainDate;
  amount: Minor;
  currency: Currency;
  text: string;
  counterparty: string;
  reference: string;
  file_line: number;
  fingerprint: string;
  occurrence: number;
  match_id: number | null;
  run_id: number;
}

export interface MatchTable {
  id: Generated<number>;
  confirmed_at: string;
  actor: string;
  certainty: string;
  reasons: string;
  journal_id: number;
  rest: Minor;
  rest_account_id: AccountId | null;
  undone_at: string | null;
}

export interface MatchLineTable {
  match_id: number;
  statement_line_id: number;
  live: 0 | 1;
}

export interface MatchPartTable {
  match_id: number;
  part_no: number;
  kind: 'payout' | 'receipt' | 'invoice';
  ref_id: number;
  gross: Minor;
  fee: Minor;
  live: 0 | 1;
}

export interface ProposalTable {
  statement_line_id: number;
  certainty: 'proven' | 'probable' | 'open' | 'none';
  book_date: PlainDate;
  amount: Minor;
  reasons: string;
}

export interface ProposalPayoutTable {
  statement_line_id: number;
  rank: number;
  payout_id: number;
  laid: 0 | 1;
  reasons: string;
}

/** One books file, table by table (migrations/ holds what each column means and refuses). */
export interface BooksSchema {
  books: BooksTable;
  account: AccountTable;
  tax_code: TaxCodeTable;
  item: ItemTable;
  payer: PayerTable;
  channel: ChannelTable;
  bank_account: BankAccountTable;
  seal: SealTable;
  journal: JournalTable;
  journal_line: JournalLineTable;
  account_day: AccountDayTable;
  audit: AuditTable;
  run: RunTable;
  run_finding: RunFindingTable;
  invoice: InvoiceTable;
  invoice_line: InvoiceLineTable;
  allocation: AllocationTable;
  payout: PayoutTable;
  receipt: ReceiptTable;
  statement: StatementTable;
  statement_line: StatementLineTable;
  match: MatchTable;
  match_line: MatchLineTable;
  match_part: MatchPartTable;
  proposal: ProposalTable;
  proposal_payout: ProposalPayoutTable;
}
