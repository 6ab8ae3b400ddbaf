import type { Generated } from 'kysely';
import type { PlainDate } from '@/core/calendar';
import type { AccountClass, AccountId, AccountRole } from '@/core/ledger';
import type { BasisPoints, Currency, Minor, Rate } from '@/core/money';
import type { Fixed } from './fixed';

export interface BooksTable {
  id: number;
  name: string;
  currency: Currency;
  zone: string;
  country: string;
  closed_through: PlainDate | null;
  fixed_today: PlainDate | null;
  address: Generated<string>;
  email: Generated<string>;
  tax_number: Generated<string>;
  number_prefix: Generated<string>;
  write_off_limit: Generated<Minor>;
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
  category: Generated<'S' | 'Z' | 'E' | 'O'>;
  archived: Generated<0 | 1>;
}

export interface DimensionTable {
  id: Generated<number>;
  name: string;
}

export interface DimensionValueTable {
  id: Generated<number>;
  dimension_id: number;
  name: string;
  active: Generated<0 | 1>;
}

export interface AccountDimensionTable {
  account_id: AccountId;
  dimension_id: number;
}

export interface JournalLineDimensionTable {
  journal_id: Fixed<number>;
  line_no: Fixed<number>;
  dimension_id: Fixed<number>;
  value_id: Fixed<number>;
}

export interface BankAccountTable {
  account_id: AccountId;
  iban: string;
  currency: Currency;
  bic: Generated<string>;
}

export type JournalSource =
  'opening' | 'invoice' | 'correction' | 'credit-note' | 'receipt' | 'summary' | 'settlement' | 'match' | 'reversal';

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
  own: Generated<Minor>;
}

export interface RateTable {
  currency: Currency;
  day: PlainDate;
  rate: Rate;
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
