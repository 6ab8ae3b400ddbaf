/**
 * Journals are sealed many at a time, and a receipt keeps which invoice of the books its document names.
 *
 * Heads come first, then their lines, then one seal over all of them: its trigger looks at the whole run of journals in
 * one pass and refuses all of it where one does not balance or is dated in a closed period. A head whose seal never
 * comes, and a line whose head never came, are refused by their foreign keys.
 */
export const SEALS = `
CREATE TABLE seal (
  id INTEGER PRIMARY KEY,
  first_journal INTEGER NOT NULL,
  last_journal INTEGER NOT NULL UNIQUE CHECK (last_journal >= first_journal)
) STRICT;
INSERT INTO seal SELECT 1, min(id), max(id) FROM journal HAVING count(*) > 0;

CREATE TABLE new_journal (
  id INTEGER PRIMARY KEY,
  seal_id INTEGER NOT NULL REFERENCES seal (id) DEFERRABLE INITIALLY DEFERRED,
  book_date TEXT NOT NULL,
  source_kind TEXT NOT NULL CHECK (source_kind IN ('opening', 'invoice', 'receipt', 'summary', 'match', 'reversal')),
  source_id INTEGER NOT NULL,
  revision INTEGER NOT NULL,
  reverses_id INTEGER UNIQUE REFERENCES journal (id),
  memo TEXT NOT NULL,
  posted_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  UNIQUE (source_kind, source_id, revision)
) STRICT;
CREATE TABLE new_journal_line (
  journal_id INTEGER NOT NULL REFERENCES journal (id),
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
INSERT INTO new_journal
  SELECT id, 1, book_date, source_kind, source_id, revision, reverses_id, memo, posted_at, actor FROM journal;
INSERT INTO new_journal_line SELECT * FROM journal_line;
DROP TABLE journal_line;
DROP TABLE journal;
ALTER TABLE new_journal RENAME TO journal;
ALTER TABLE new_journal_line RENAME TO journal_line;
CREATE INDEX journal_seal ON journal (seal_id);
CREATE INDEX journal_line_register ON journal_line (account_id, book_date, journal_id, line_no);

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
  -- The lines in the order they lie in, a journal at a time; what is left must be every one of the journals.
  SELECT RAISE(ABORT, 'journal_unbalanced')
  WHERE NEW.last_journal - NEW.first_journal + 1 <> (
    SELECT count(*) FROM (
      SELECT journal_id, min(book_date) AS day FROM journal_line
      WHERE journal_id BETWEEN NEW.first_journal AND NEW.last_journal GROUP BY journal_id
      HAVING count(*) > 1 AND sum(base_amount) = 0 AND min(book_date) = max(book_date)
        AND (sum(amount) = 0 OR min(currency) <> max(currency))
    ) AS good JOIN journal j ON j.id = good.journal_id AND j.book_date = good.day);
END;
CREATE TRIGGER seal_no_update BEFORE UPDATE ON seal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER seal_no_delete BEFORE DELETE ON seal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_sealed BEFORE INSERT ON journal_line
WHEN NEW.journal_id <= (SELECT max(last_journal) FROM seal)
BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_no_update BEFORE UPDATE ON journal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_no_delete BEFORE DELETE ON journal BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_no_update BEFORE UPDATE ON journal_line BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;
CREATE TRIGGER journal_line_no_delete BEFORE DELETE ON journal_line BEGIN SELECT RAISE(ABORT, 'journal_sealed'); END;

-- The invoice of these books that the receipt's document names; kept when either of them comes in.
ALTER TABLE receipt ADD COLUMN invoice_id INTEGER REFERENCES invoice (id);
UPDATE receipt SET invoice_id = (SELECT id FROM invoice WHERE number = receipt.document) WHERE document <> '';
CREATE INDEX receipt_invoice ON receipt (invoice_id) WHERE invoice_id IS NOT NULL;
CREATE INDEX receipt_unknown_document ON receipt (document, kind, gross) WHERE document <> '' AND invoice_id IS NULL;
DROP INDEX receipt_document;
-- Both are answered from the index alone: what is posted and not at the bank, and what a part of it comes to.
DROP INDEX receipt_not_paid_out;
CREATE INDEX receipt_not_banked ON receipt (book_date, id, payout_id, gross, fee)
  WHERE journal_id IS NOT NULL AND match_id IS NULL;
CREATE INDEX receipt_not_paid_out ON receipt (book_date, id) WHERE payout_ref = '' AND match_id IS NULL;

-- An id as it is compared with a bank's text (core/matching, referenceKey).
ALTER TABLE payout ADD COLUMN reference_key TEXT NOT NULL DEFAULT '';
UPDATE payout SET reference_key = replace(replace(replace(replace(upper(external_id), '-', ''), ' ', ''), '_', ''), '.', '');
CREATE INDEX payout_reference_free ON payout (reference_key) WHERE match_id IS NULL;
`;
