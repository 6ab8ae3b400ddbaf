import type { Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import type { Currency, Minor } from '@/core/money';

export interface StatementTable {
  id: Generated<number>;
  account_id: AccountId;
  reference: string;
  /** Null where its format does not tell it. */
  opening: Minor | null;
  closing: Minor | null;
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
  /** The bank's own id of it; banks repeat them. */
  bank_id: Generated<string>;
  /** Why nothing is to be explained of it. */
  aside: Generated<string | null>;
}

/** One payment of a line that the bank booked as a sum of several. */
export interface StatementLineDetailTable {
  line_id: number;
  no: number;
  amount: Minor;
  text: string;
  counterparty: string;
  reference: string;
}

export interface StatementProfileTable {
  fingerprint: string;
  settings: string;
  used_at: string;
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
  /** 1 is the line of the sheet; what was laid on it follows. */
  place: Generated<number>;
  /** Of a line of another day: what it wrote on that day. */
  journal_id: Generated<number | null>;
}

export interface MatchPartTable {
  match_id: number;
  part_no: number;
  kind: 'payout' | 'receipt' | 'invoice' | 'account' | 'line';
  ref_id: number;
  gross: Minor;
  fee: Minor;
  live: 0 | 1;
  /** Of an account: dimensions, tax code and rule, as JSON. */
  detail: Generated<string>;
}

export interface ProposalTable {
  statement_line_id: number;
  certainty: 'proven' | 'probable' | 'open' | 'none' | 'not-due' | 'not-ours';
  book_date: PlainDate;
  amount: Minor;
  reasons: string;
  /** 1 where invoices and receipts had the last word. */
  deep: Generated<0 | 1>;
}

/** One way to explain a line; the one that is laid on its sheet is number 0. */
export interface ProposalWayTable {
  statement_line_id: number;
  rank: number;
  laid: 0 | 1;
  reasons: string;
  rest_account_id: Generated<AccountId | null>;
}

export interface ProposalPartTable {
  statement_line_id: number;
  rank: number;
  no: number;
  kind: 'payout' | 'receipt' | 'invoice' | 'account' | 'line';
  ref_id: number;
  /** Of an invoice how much of it, of an account how much on it; of all else 0. */
  amount: Minor;
  /** Of an account: dimensions, tax code and rule, as JSON. */
  detail: Generated<string>;
}

/** What explains a deposit that is booked straight to income. */
export interface DoubledTable {
  statement_line_id: number;
  certainty: 'proven' | 'probable';
  reasons: string;
  rest_account_id: AccountId | null;
  denied: 0 | 1;
}

export interface DoubledPartTable {
  statement_line_id: number;
  no: number;
  kind: 'payout' | 'receipt' | 'invoice';
  ref_id: number;
  /** Of an invoice how much of it; of all else 0. */
  amount: Minor;
}

/** A rule for statement lines that are no channel's money. */
export interface StatementRuleTable {
  id: Generated<number>;
  position: number;
  name: string;
  active: 0 | 1;
  conditions: string;
  result: string;
  changed_at: string;
  actor: string;
}
