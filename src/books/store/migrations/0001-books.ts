/** The books themselves, their lists, the ledger and what it refuses by itself. */
export const BOOKS_AND_LEDGER = `
CREATE TABLE books (
  id INTEGER PRIMARY KEY CHECK (id = 1),
  name TEXT NOT NULL,
  currency TEXT NOT NULL,
  zone TEXT NOT NULL,
  country TEXT NOT NULL,
  closed_through TEXT,
  -- The demo has its own day; null is the clock's.
  fixed_today TEXT
) STRICT;

CREATE TABLE account (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  class TEXT NOT NULL CHECK (class IN ('asset', 'liability', 'equity', 'income', 'expense')),
  role TEXT,
  currency TEXT NOT NULL
) STRICT;
CREATE INDEX account_role ON account (role) WHERE role IS NOT NULL;

CREATE TABLE tax_code (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  rate INTEGER NOT NULL CHECK (rate BETWEEN 0 AND 10000),
  account_id INTEGER NOT NULL REFERENCES account (id)
) STRICT;

CREATE TABLE item (
  id INTEGER PRIMARY KEY,
  code TEXT NOT NULL UNIQUE,
  name TEXT NOT NULL,
  income_account_id INTEGER NOT NULL REFERENCES account (id),
  tax_code_id INTEGER NOT NULL REFERENCES tax_code (id)
) STRICT;

CREATE TABLE payer (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  email TEXT NOT NULL
) STRICT;
CREATE UNIQUE INDEX payer_email ON payer (email) WHERE email <> '';
CREATE INDEX payer_name ON payer (name);

CREATE TABLE channel (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  currency TEXT NOT NULL,
  clearing_account_id INTEGER NOT NULL UNIQUE REFERENCES account (id),
  bank_account_id INTEGER NOT NULL REFERENCES account (id),
  fee_account_id INTEGER NOT NULL REFERENCES account (id),
  refund_account_id INTEGER NOT NULL REFERENCES account (id),
  tips_account_id INTEGER NOT NULL REFERENCES account (id),
  income_account_id INTEGER NOT NULL REFERENCES account (id),
  tax_code_id INTEGER NOT NULL REFERENCES tax_code (id),
  fee_rate INTEGER NOT NULL CHECK (fee_rate BETWEEN 0 AND 10000),
  fee_fixed INTEGER NOT NULL CHECK (fee_fixed >= 0),
  -- Working days from a payout to its arrival at the bank.
  payout_days INTEGER NOT NULL CHECK (payout_days BETWEEN 0 AND 60)
) STRICT;

CREATE TABLE bank_account (
  account_id INTEGER PRIMARY KEY REFERENCES account (id),
  iban TEXT NOT NULL UNIQUE,
  currency TEXT NOT NULL
) STRICT;

-- A journal's lines are written first; writing its head seals it. The head refuses lines that do not balance and
-- days that are closed, and once it stands nothing of the journal can be added, changed or taken away.
CREATE TABLE journal (
  id INTEGER PRIMARY KEY,
  book_date TEXT NOT NULL,
  source_kind TEXT NOT NULL CHECK (source_kind IN ('opening', 'invoice', 'receipt', 'match', 'reversal')),
  source_id INTEGER NOT NULL,
  revision INTEGER NOT NULL,
  reverses_id INTEGER UNIQUE REFERENCES journal (id),
  memo TEXT NOT NULL,
  posted_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  UNIQUE (source_kind, source_id, revision)
) STRICT;

CREATE TABLE journal_line (
  journal_id INTEGER NOT NULL REFERENCES journal (id) DEFERRABLE INITIALLY DEFERRED,
  line_no INTEGER NOT NULL,
  account_id INTEGER NOT NULL REFERENCES account (id),
  book_date TEXT NOT NULL,
  -- Minor units of the currency; a debit is positive. Base is the same in the books' own currency.
  amount INTEGER NOT NULL,
  currency TEXT NOT NULL,
  base_amount INTEGER NOT NULL,
  because TEXT NOT NULL,
  PRIMARY KEY (journal_id, line_no)
) STRICT, WITHOUT ROWID;
CREATE INDEX journal_line_register ON journal_line (account_id, book_date, journal_id, line_no);

-- Totals per account and day, kept by whoever writes lines, so that a balance on any day is a short sum.
CREATE TABLE account_day (
  account_id INTEGER NOT NULL REFERENCES account (id),
  day TEXT NOT NULL,
  debit INTEGER NOT NULL,
  credit INTEGER NOT NULL,
  lines INTEGER NOT NULL,
  PRIMARY KEY (account_id, day)
) STRICT, WITHOUT ROWID;

CREATE TRIGGER journal_seal BEFORE INSERT ON journal
BEGIN
  SELECT RAISE(ABORT, 'journal_unbalanced') FROM (
    SELECT count(*) AS n, sum(base_amount) AS base, sum(amount) AS own,
           min(currency) = max(currency) AS one, min(book_date) AS first, max(book_date) AS last
    FROM journal_line WHERE journal_id = NEW.id
  ) WHERE n < 2 OR base <> 0 OR (one AND own <> 0) OR first <> NEW.book_date OR last <> NEW.book_date;
  SELECT RAISE(ABORT, 'period_closed') FROM books WHERE closed_through >= NEW.book_date;
END;
CREATE TRIGGER journal_line_sealed BEFORE INSERT ON journal_line
WHEN EXISTS (SELECT 1 FROM journal WHERE id = NEW.journal_id)
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_no_update BEFORE UPDATE ON journal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_no_delete BEFORE DELETE ON journal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_no_update BEFORE UPDATE ON journal_line BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_no_delete BEFORE DELETE ON journal_line BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;

CREATE TABLE audit (
  id INTEGER PRIMARY KEY,
  at TEXT NOT NULL,
  actor TEXT NOT NULL,
  command TEXT NOT NULL,
  summary TEXT NOT NULL,
  detail TEXT NOT NULL,
  -- What takes the change back, as data for the undo command; null where nothing does.
  undo TEXT,
  -- The change that this one takes back.
  undoes INTEGER UNIQUE REFERENCES audit (id)
) STRICT;
`;
