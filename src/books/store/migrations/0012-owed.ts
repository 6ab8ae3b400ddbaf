/** What is owed, in full: terms, drafts, versions, credit notes, what settles an invoice and what is kept for a payer. */
export const OWED = `
CREATE TABLE new_run (
  id INTEGER PRIMARY KEY,
  -- By hand: what was keyed here and came from no file.
  kind TEXT NOT NULL CHECK (kind IN ('invoices', 'receipts', 'statement', 'by-hand')),
  file_name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  started_at TEXT NOT NULL,
  ended_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  added INTEGER NOT NULL,
  updated INTEGER NOT NULL,
  known INTEGER NOT NULL,
  refused INTEGER NOT NULL,
  undone_at TEXT,
  changed INTEGER NOT NULL DEFAULT 0,
  reading TEXT NOT NULL DEFAULT ''
) STRICT;
INSERT INTO new_run (id, kind, file_name, sha256, bytes, started_at, ended_at, actor, added, updated, known, refused,
    undone_at, changed, reading)
  SELECT id, kind, file_name, sha256, bytes, started_at, ended_at, actor, added, updated, known, refused, undone_at,
    changed, reading FROM run;
DROP TABLE run;
ALTER TABLE new_run RENAME TO run;

-- The seal looks at journals: it is made again once they stand under their name.
DROP TRIGGER seal_journals;
DROP TRIGGER journal_line_sealed;
DROP TRIGGER journal_line_dimension_sealed;
CREATE TABLE new_journal (
  id INTEGER PRIMARY KEY,
  seal_id INTEGER NOT NULL REFERENCES seal (id) DEFERRABLE INITIALLY DEFERRED,
  book_date TEXT NOT NULL,
  source_kind TEXT NOT NULL CHECK (source_kind IN ('opening', 'invoice', 'correction', 'credit-note', 'receipt', 'summary',
    'settlement', 'match', 'reversal')),
  source_id INTEGER NOT NULL,
  revision INTEGER NOT NULL,
  reverses_id INTEGER UNIQUE REFERENCES journal (id),
  memo TEXT NOT NULL,
  posted_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  UNIQUE (source_kind, source_id, revision)
) STRICT;
INSERT INTO new_journal
  SELECT id, seal_id, book_date, source_kind, source_id, revision, reverses_id, memo, posted_at, actor FROM journal;
DROP TABLE journal;
ALTER TABLE new_journal RENAME TO journal;
CREATE INDEX journal_seal ON journal (seal_id);
CREATE TRIGGER seal_journals BEFORE INSERT ON seal
BEGIN
  SELECT RAISE(ABORT, 'seal_gap')
  WHERE NEW.first_journal <> (SELECT coalesce(max(last_journal), 0) + 1 FROM seal)
    OR (SELECT count(*) FROM journal
        WHERE id BETWEEN NEW.first_journal AND NEW.last_journal AND seal_id = NEW.id)
      <> NEW.last_journal - NEW.first_journal + 1;
  SELECT RAISE(ABORT, 'period_closed') FROM books
  WHERE closed_through >= (
    SELECT min(book_date) FROM journal WHERE id BETWEEN NEW.first_journal AND NEW.last_journal);
  SELECT RAISE(ABORT, 'journal_unbalanced')
  WHERE NEW.last_journal - NEW.first_journal + 1 <> (
    SELECT count(*) FROM (
      SELECT journal_id, min(book_date) AS day FROM journal_line
      WHERE journal_id BETWEEN NEW.first_journal AND NEW.last_journal GROUP BY journal_id
      HAVING count(*) > 1 AND sum(base_amount) = 0 AND min(book_date) = max(book_date)
        AND (sum(amount) = 0 OR min(currency) <> max(currency))
    ) AS good JOIN journal j ON j.id = good.journal_id AND j.book_date = good.day);
END;
CREATE TRIGGER journal_line_sealed BEFORE INSERT ON journal_line
WHEN NEW.journal_id <= (SELECT max(last_journal) FROM seal)
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_dimension_sealed BEFORE INSERT ON journal_line_dimension
WHEN NEW.journal_id <= (SELECT max(last_journal) FROM seal)
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_no_update BEFORE UPDATE ON journal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_no_delete BEFORE DELETE ON journal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;

-- Every movement of the receivable that is an invoice's, with the day it is booked on: what is owed on any day is their sum.
-- A debit is positive; a reversal adds the opposite.
CREATE TABLE invoice_entry (
  id INTEGER PRIMARY KEY,
  invoice_id INTEGER NOT NULL REFERENCES invoice (id),
  journal_id INTEGER NOT NULL REFERENCES journal (id),
  book_date TEXT NOT NULL,
  amount INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('issued', 'corrected', 'credited', 'settled', 'discount', 'written-off'))
) STRICT;
INSERT INTO invoice_entry (invoice_id, journal_id, book_date, amount, kind)
  SELECT j.source_id, j.id, j.book_date, i.gross, 'issued'
  FROM journal j JOIN invoice i ON i.id = j.source_id WHERE j.source_kind = 'invoice' ORDER BY j.id;
INSERT INTO invoice_entry (invoice_id, journal_id, book_date, amount, kind)
  SELECT o.source_id, r.id, r.book_date, -i.gross, 'issued'
  FROM journal r JOIN journal o ON o.id = r.reverses_id JOIN invoice i ON i.id = o.source_id
  WHERE o.source_kind = 'invoice' ORDER BY r.id;
INSERT INTO invoice_entry (invoice_id, journal_id, book_date, amount, kind)
  SELECT a.invoice_id, a.journal_id, j.book_date, -a.amount, 'settled'
  FROM allocation a JOIN journal j ON j.id = a.journal_id ORDER BY a.id;
DROP TABLE allocation;
CREATE INDEX invoice_entry_invoice ON invoice_entry (invoice_id, book_date, amount);
CREATE INDEX invoice_entry_journal ON invoice_entry (journal_id);

-- Every movement of what is kept for payers: more is positive. Whose it is follows from the receipt or the credit note.
CREATE TABLE credit_entry (
  id INTEGER PRIMARY KEY,
  receipt_id INTEGER REFERENCES receipt (id),
  credit_note_id INTEGER REFERENCES credit_note (id),
  journal_id INTEGER NOT NULL REFERENCES journal (id),
  book_date TEXT NOT NULL,
  amount INTEGER NOT NULL
) STRICT;
INSERT INTO credit_entry (receipt_id, credit_note_id, journal_id, book_date, amount)
  SELECT CASE coalesce(o.source_kind, j.source_kind) WHEN 'receipt' THEN coalesce(o.source_id, j.source_id) END, NULL, j.id,
    j.book_date, -sum(l.base_amount)
  FROM account a JOIN journal_line l ON l.account_id = a.id JOIN journal j ON j.id = l.journal_id
  LEFT JOIN journal o ON o.id = j.reverses_id
  WHERE a.role = 'payer_credit' AND coalesce(o.source_kind, j.source_kind) IN ('receipt', 'summary')
  GROUP BY j.id ORDER BY j.id;
CREATE INDEX credit_entry_receipt ON credit_entry (receipt_id, amount) WHERE receipt_id IS NOT NULL;
CREATE INDEX credit_entry_note ON credit_entry (credit_note_id) WHERE credit_note_id IS NOT NULL;
CREATE INDEX credit_entry_journal ON credit_entry (journal_id);

-- One act of putting credit to invoices.
CREATE TABLE settlement (
  id INTEGER PRIMARY KEY,
  book_date TEXT NOT NULL,
  made_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  journal_id INTEGER REFERENCES journal (id)
) STRICT;

CREATE TABLE terms (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL UNIQUE COLLATE NOCASE,
  due_days INTEGER NOT NULL CHECK (due_days BETWEEN 0 AND 730),
  discount_rate INTEGER NOT NULL CHECK (discount_rate BETWEEN 0 AND 5000),
  discount_days INTEGER NOT NULL CHECK (discount_days BETWEEN 0 AND due_days),
  archived INTEGER NOT NULL DEFAULT 0 CHECK (archived IN (0, 1))
) STRICT;

ALTER TABLE item ADD COLUMN description TEXT NOT NULL DEFAULT '';
-- Net price of one; null where it is asked each time.
ALTER TABLE item ADD COLUMN price INTEGER;
-- UN/ECE recommendation 20.
ALTER TABLE item ADD COLUMN unit TEXT NOT NULL DEFAULT 'C62';
ALTER TABLE item ADD COLUMN archived INTEGER NOT NULL DEFAULT 0 CHECK (archived IN (0, 1));
-- UNCL 5305: S standard, Z zero rated, E exempt, O outside the scope.
ALTER TABLE tax_code ADD COLUMN category TEXT NOT NULL DEFAULT 'S' CHECK (category IN ('S', 'Z', 'E', 'O'));
UPDATE tax_code SET category = 'Z' WHERE rate = 0;
ALTER TABLE tax_code ADD COLUMN archived INTEGER NOT NULL DEFAULT 0 CHECK (archived IN (0, 1));
ALTER TABLE payer ADD COLUMN address TEXT NOT NULL DEFAULT '';
ALTER TABLE payer ADD COLUMN country TEXT NOT NULL DEFAULT '';
ALTER TABLE payer ADD COLUMN tax_number TEXT NOT NULL DEFAULT '';
ALTER TABLE payer ADD COLUMN terms_id INTEGER REFERENCES terms (id);
ALTER TABLE payer ADD COLUMN note TEXT NOT NULL DEFAULT '';
ALTER TABLE payer ADD COLUMN archived INTEGER NOT NULL DEFAULT 0 CHECK (archived IN (0, 1));

-- What stands on the books' own documents.
ALTER TABLE books ADD COLUMN address TEXT NOT NULL DEFAULT '';
ALTER TABLE books ADD COLUMN email TEXT NOT NULL DEFAULT '';
ALTER TABLE books ADD COLUMN tax_number TEXT NOT NULL DEFAULT '';
ALTER TABLE books ADD COLUMN number_prefix TEXT NOT NULL DEFAULT '';
-- A remainder up to this may be written off.
ALTER TABLE books ADD COLUMN write_off_limit INTEGER NOT NULL DEFAULT 100 CHECK (write_off_limit >= 0);
ALTER TABLE bank_account ADD COLUMN bic TEXT NOT NULL DEFAULT '';

-- The last number given out: the next is one more, in the transaction that issues.
CREATE TABLE number_series (
  kind TEXT NOT NULL CHECK (kind IN ('invoice', 'credit-note')),
  year INTEGER NOT NULL,
  last INTEGER NOT NULL,
  PRIMARY KEY (kind, year)
) STRICT, WITHOUT ROWID;

-- An invoice that is being written (core of books/invoices/bill-input); it is in no list of what is owed.
CREATE TABLE invoice_draft (
  id INTEGER PRIMARY KEY,
  content TEXT NOT NULL,
  payer_id INTEGER REFERENCES payer (id),
  gross INTEGER NOT NULL,
  changed_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  -- What it became: a draft is issued once, however often it is sent off.
  invoice_id INTEGER UNIQUE REFERENCES invoice (id)
) STRICT;

ALTER TABLE invoice ADD COLUMN credited INTEGER NOT NULL DEFAULT 0;
ALTER TABLE invoice ADD COLUMN discount_rate INTEGER NOT NULL DEFAULT 0;
ALTER TABLE invoice ADD COLUMN discount_until TEXT;
ALTER TABLE invoice ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE invoice ADD COLUMN note TEXT NOT NULL DEFAULT '';
ALTER TABLE invoice ADD COLUMN reference TEXT NOT NULL DEFAULT '';
ALTER TABLE invoice ADD COLUMN own INTEGER NOT NULL DEFAULT 0 CHECK (own IN (0, 1));
-- Text of this books' own people, never handed out.
ALTER TABLE invoice ADD COLUMN private_note TEXT NOT NULL DEFAULT '';
-- Open invoices in the order they are listed: what is overdue is found without sorting all of it.
CREATE INDEX invoice_open_issued ON invoice (issued, id, due, gross, paid) WHERE journal_id IS NOT NULL AND paid < gross;
-- Thousandths.
ALTER TABLE invoice_line ADD COLUMN quantity INTEGER NOT NULL DEFAULT 1000;
ALTER TABLE invoice_line ADD COLUMN price INTEGER NOT NULL DEFAULT 0;
ALTER TABLE invoice_line ADD COLUMN discount_rate INTEGER NOT NULL DEFAULT 0;
-- The rate of its tax code on the day it was issued.
ALTER TABLE invoice_line ADD COLUMN rate INTEGER NOT NULL DEFAULT 0;
ALTER TABLE invoice_line ADD COLUMN dimensions TEXT NOT NULL DEFAULT '[]';
UPDATE invoice_line SET price = net, rate = (SELECT t.rate FROM tax_code t WHERE t.id = tax_code_id);

-- A version that was replaced, or stands: what it said, and the difference its successor booked.
CREATE TABLE invoice_version (
  invoice_id INTEGER NOT NULL REFERENCES invoice (id) ON DELETE CASCADE,
  version INTEGER NOT NULL,
  content TEXT NOT NULL,
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  gross INTEGER NOT NULL,
  due TEXT NOT NULL,
  made_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  why TEXT NOT NULL,
  journal_id INTEGER REFERENCES journal (id),
  PRIMARY KEY (invoice_id, version)
) STRICT, WITHOUT ROWID;
-- What was given to somebody, and which version that was.
CREATE TABLE handout (
  id INTEGER PRIMARY KEY,
  document TEXT NOT NULL CHECK (document IN ('invoice', 'credit-note', 'receipt')),
  document_id INTEGER NOT NULL,
  version INTEGER NOT NULL,
  gross INTEGER NOT NULL,
  how TEXT NOT NULL CHECK (how IN ('mail', 'pdf', 'ubl', 'link')),
  given_to TEXT NOT NULL,
  at TEXT NOT NULL,
  actor TEXT NOT NULL
) STRICT;
CREATE INDEX handout_document ON handout (document, document_id);

CREATE TABLE credit_note (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  invoice_id INTEGER NOT NULL REFERENCES invoice (id),
  issued TEXT NOT NULL,
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  gross INTEGER NOT NULL CHECK (gross > 0),
  why TEXT NOT NULL,
  journal_id INTEGER REFERENCES journal (id)
) STRICT;
CREATE INDEX credit_note_invoice ON credit_note (invoice_id);
CREATE TABLE credit_note_line (
  credit_note_id INTEGER NOT NULL REFERENCES credit_note (id),
  line_no INTEGER NOT NULL,
  -- The line of the invoice that it takes back.
  invoice_line INTEGER NOT NULL,
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  PRIMARY KEY (credit_note_id, line_no)
) STRICT, WITHOUT ROWID;

CREATE TABLE attachment (
  id INTEGER PRIMARY KEY,
  subject TEXT NOT NULL CHECK (subject IN ('invoice', 'receipt', 'payer', 'gift-batch')),
  subject_id INTEGER NOT NULL,
  name TEXT NOT NULL,
  media_type TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  sha256 TEXT NOT NULL,
  added_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  removed_at TEXT
) STRICT;
CREATE INDEX attachment_subject ON attachment (subject, subject_id);
CREATE TABLE mail_attachment (
  mail_id INTEGER NOT NULL REFERENCES mail (id),
  name TEXT NOT NULL,
  media_type TEXT NOT NULL,
  content BLOB NOT NULL,
  PRIMARY KEY (mail_id, name)
) STRICT;
`;
