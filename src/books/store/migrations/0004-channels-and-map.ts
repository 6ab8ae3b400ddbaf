/** Channels of every kind, their sites, the account map with its rules and defaults, and dimensions. */
export const CHANNELS_AND_MAP = `
CREATE TABLE new_channel (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL CHECK (kind IN
    ('card-desk', 'debit-bureau', 'giving-page', 'till', 'transfers', 'cash-and-cheques', 'other')),
  currency TEXT NOT NULL,
  clearing_account_id INTEGER NOT NULL UNIQUE REFERENCES account (id),
  bank_account_id INTEGER NOT NULL REFERENCES account (id),
  fee_account_id INTEGER NOT NULL REFERENCES account (id),
  refund_account_id INTEGER NOT NULL REFERENCES account (id),
  tips_account_id INTEGER NOT NULL REFERENCES account (id),
  -- Asked of a channel only where it has such a thing.
  discount_account_id INTEGER REFERENCES account (id),
  gift_card_account_id INTEGER REFERENCES account (id),
  chargeback_account_id INTEGER REFERENCES account (id),
  fx_account_id INTEGER REFERENCES account (id),
  -- The channel's own word in the account map; null leaves it to the books.
  income_account_id INTEGER REFERENCES account (id),
  tax_code_id INTEGER REFERENCES tax_code (id),
  fee_rate INTEGER NOT NULL CHECK (fee_rate BETWEEN 0 AND 10000),
  fee_fixed INTEGER NOT NULL CHECK (fee_fixed >= 0),
  -- Working days from a payout to its arrival at the bank.
  payout_days INTEGER NOT NULL CHECK (payout_days BETWEEN 0 AND 60),
  -- Nothing earlier is taken in; null takes all.
  history_from TEXT,
  -- Posts what is brought in without a look.
  posts_itself INTEGER NOT NULL DEFAULT 0 CHECK (posts_itself IN (0, 1)),
  -- Debits only: paid on the debit's day, or once the bureau has collected.
  paid_when TEXT NOT NULL DEFAULT 'debit-day' CHECK (paid_when IN ('debit-day', 'collected')),
  -- Stands for everyone who pays here, where payers are not told apart.
  payer_id INTEGER REFERENCES payer (id)
) STRICT;
INSERT INTO new_channel (id, name, kind, currency, clearing_account_id, bank_account_id, fee_account_id,
    refund_account_id, tips_account_id, income_account_id, tax_code_id, fee_rate, fee_fixed, payout_days)
  SELECT id, name, 'card-desk', currency, clearing_account_id, bank_account_id, fee_account_id, refund_account_id,
    tips_account_id, income_account_id, tax_code_id, fee_rate, fee_fixed, payout_days FROM channel;
DROP TABLE channel;
ALTER TABLE new_channel RENAME TO channel;

-- Where takings of a till are: its own cash box, and a bank account of its own where it has one.
CREATE TABLE site (
  id INTEGER PRIMARY KEY,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  code TEXT NOT NULL,
  name TEXT NOT NULL,
  cash_account_id INTEGER REFERENCES account (id),
  bank_account_id INTEGER REFERENCES account (id),
  UNIQUE (channel_id, code)
) STRICT;

-- How a channel's receipts are posted, from a day on: an entry each, or one for a day and site.
CREATE TABLE channel_posting (
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  from_day TEXT NOT NULL,
  mode TEXT NOT NULL CHECK (mode IN ('each', 'summary')),
  PRIMARY KEY (channel_id, from_day)
) STRICT, WITHOUT ROWID;
INSERT INTO channel_posting SELECT id, '0000-01-01', 'each' FROM channel;

-- A channel that is being opened: what has been answered so far.
CREATE TABLE channel_draft (
  id INTEGER PRIMARY KEY,
  settings TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  actor TEXT NOT NULL
) STRICT;

CREATE TABLE dimension (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE
) STRICT;
CREATE TABLE dimension_value (
  id INTEGER PRIMARY KEY,
  dimension_id INTEGER NOT NULL REFERENCES dimension (id),
  name TEXT NOT NULL COLLATE NOCASE,
  active INTEGER NOT NULL DEFAULT 1 CHECK (active IN (0, 1)),
  UNIQUE (dimension_id, name)
) STRICT;
-- Lines on this account must say this dimension.
CREATE TABLE account_dimension (
  account_id INTEGER NOT NULL REFERENCES account (id),
  dimension_id INTEGER NOT NULL REFERENCES dimension (id),
  PRIMARY KEY (account_id, dimension_id)
) STRICT, WITHOUT ROWID;
CREATE TABLE journal_line_dimension (
  journal_id INTEGER NOT NULL,
  line_no INTEGER NOT NULL,
  dimension_id INTEGER NOT NULL REFERENCES dimension (id),
  value_id INTEGER NOT NULL REFERENCES dimension_value (id),
  PRIMARY KEY (journal_id, line_no, dimension_id),
  FOREIGN KEY (journal_id, line_no) REFERENCES journal_line (journal_id, line_no)
) STRICT, WITHOUT ROWID;
CREATE INDEX journal_line_by_value ON journal_line_dimension (value_id, journal_id, line_no);
CREATE TRIGGER journal_line_dimension_sealed BEFORE INSERT ON journal_line_dimension
WHEN NEW.journal_id <= (SELECT max(last_journal) FROM seal)
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_dimension_no_update BEFORE UPDATE ON journal_line_dimension
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_dimension_no_delete BEFORE DELETE ON journal_line_dimension
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;

CREATE TABLE map_rule (
  id INTEGER PRIMARY KEY,
  position INTEGER NOT NULL UNIQUE,
  name TEXT NOT NULL,
  active INTEGER NOT NULL CHECK (active IN (0, 1)),
  conditions TEXT NOT NULL,
  landing TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  actor TEXT NOT NULL
) STRICT;
-- What a layer behind the rules decides beyond its own columns. Field: income, taxCode or dimension:N.
CREATE TABLE map_default (
  layer TEXT NOT NULL CHECK (layer IN ('item', 'payer', 'channel', 'books')),
  ref_id INTEGER NOT NULL,
  field TEXT NOT NULL,
  value INTEGER NOT NULL,
  PRIMARY KEY (layer, ref_id, field)
) STRICT, WITHOUT ROWID;

ALTER TABLE receipt ADD COLUMN site_id INTEGER REFERENCES site (id);
ALTER TABLE receipt ADD COLUMN method TEXT NOT NULL DEFAULT '';
ALTER TABLE receipt ADD COLUMN country TEXT NOT NULL DEFAULT '';
ALTER TABLE receipt ADD COLUMN region TEXT NOT NULL DEFAULT '';
ALTER TABLE receipt ADD COLUMN fund TEXT NOT NULL DEFAULT '';
-- Given off the price, tax included; gross is what was paid.
ALTER TABLE receipt ADD COLUMN discount INTEGER NOT NULL DEFAULT 0;
-- What the user set on this receipt, the first layer of the map (core/map Landing); null where nothing.
ALTER TABLE receipt ADD COLUMN landing TEXT;
-- Why it is not wanted in the books; null where it is.
ALTER TABLE receipt ADD COLUMN aside TEXT;
DROP INDEX receipt_not_posted;
CREATE INDEX receipt_not_posted ON receipt (book_date, id, gross, fee) WHERE journal_id IS NULL AND aside IS NULL;
CREATE INDEX receipt_aside ON receipt (book_date, id, gross) WHERE aside IS NOT NULL;
CREATE INDEX receipt_journal ON receipt (journal_id) WHERE journal_id IS NOT NULL;

-- What the source says now of a receipt that was posted with other figures.
CREATE TABLE receipt_change (
  receipt_id INTEGER PRIMARY KEY REFERENCES receipt (id) ON DELETE CASCADE,
  run_id INTEGER NOT NULL REFERENCES run (id),
  kind TEXT NOT NULL,
  gross INTEGER NOT NULL,
  tip INTEGER NOT NULL,
  fee INTEGER,
  occurred_at TEXT NOT NULL,
  book_date TEXT NOT NULL
) STRICT;

-- One entry for all receipts of a channel, day and site.
CREATE TABLE summary (
  id INTEGER PRIMARY KEY,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  site_id INTEGER REFERENCES site (id),
  book_date TEXT NOT NULL,
  receipts INTEGER NOT NULL,
  gross INTEGER NOT NULL,
  journal_id INTEGER NOT NULL REFERENCES journal (id)
) STRICT;
CREATE INDEX summary_day ON summary (channel_id, book_date);
`;
