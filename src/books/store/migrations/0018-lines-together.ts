/** Lines of the bank that belong together are confirmed as one; a way to explain a line may say where its rest goes. */
export const LINES_TOGETHER = `
ALTER TABLE match_line ADD COLUMN place INTEGER NOT NULL DEFAULT 1;
-- What a line of another day than the match's first wrote on its own day.
ALTER TABLE match_line ADD COLUMN journal_id INTEGER REFERENCES journal (id);

CREATE TABLE match_part_new (
  match_id INTEGER NOT NULL REFERENCES match (id),
  part_no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice', 'account', 'line')),
  ref_id INTEGER NOT NULL,
  -- What clearing, the receivable or the account gives up, and what of it the schedule takes as fee.
  gross INTEGER NOT NULL,
  fee INTEGER NOT NULL,
  live INTEGER NOT NULL CHECK (live IN (0, 1)),
  -- Of an account: its dimensions, tax code, rule and payer, as JSON.
  detail TEXT NOT NULL DEFAULT '{}',
  PRIMARY KEY (match_id, part_no)
) STRICT, WITHOUT ROWID;
INSERT INTO match_part_new SELECT match_id, part_no, kind, ref_id, gross, fee, live, detail FROM match_part;
DROP TABLE match_part;
ALTER TABLE match_part_new RENAME TO match_part;
CREATE UNIQUE INDEX match_part_once ON match_part (kind, ref_id) WHERE live = 1 AND kind IN ('payout', 'receipt', 'line');
CREATE INDEX match_part_ref ON match_part (kind, ref_id);

-- A line may also be not due yet: what it would be made of is not in the books.
CREATE TABLE proposal_new (
  statement_line_id INTEGER PRIMARY KEY REFERENCES statement_line (id) ON DELETE CASCADE,
  certainty TEXT NOT NULL CHECK (certainty IN ('proven', 'probable', 'open', 'none', 'not-due')),
  book_date TEXT NOT NULL,
  amount INTEGER NOT NULL,
  reasons TEXT NOT NULL,
  deep INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO proposal_new SELECT statement_line_id, certainty, book_date, amount, reasons, deep FROM proposal;
CREATE TABLE proposal_way_new (
  statement_line_id INTEGER NOT NULL REFERENCES proposal_new (statement_line_id) ON DELETE CASCADE,
  rank INTEGER NOT NULL,
  laid INTEGER NOT NULL CHECK (laid IN (0, 1)),
  reasons TEXT NOT NULL,
  -- Where the rest goes, if the parts do not come to the line.
  rest_account_id INTEGER REFERENCES account (id),
  PRIMARY KEY (statement_line_id, rank)
) STRICT, WITHOUT ROWID;
INSERT INTO proposal_way_new SELECT statement_line_id, rank, laid, reasons, NULL FROM proposal_way;
CREATE TABLE proposal_part_new (
  statement_line_id INTEGER NOT NULL,
  rank INTEGER NOT NULL,
  no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice', 'account', 'line')),
  ref_id INTEGER NOT NULL,
  -- Of an invoice how much of it, of an account how much on it, minor units; of all else 0.
  amount INTEGER NOT NULL,
  detail TEXT NOT NULL DEFAULT '{}',
  PRIMARY KEY (statement_line_id, rank, no),
  FOREIGN KEY (statement_line_id, rank) REFERENCES proposal_way_new (statement_line_id, rank) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;
INSERT INTO proposal_part_new SELECT statement_line_id, rank, no, kind, ref_id, amount, detail FROM proposal_part;
DROP TABLE proposal_part;
DROP TABLE proposal_way;
DROP TABLE proposal;
ALTER TABLE proposal_new RENAME TO proposal;
ALTER TABLE proposal_way_new RENAME TO proposal_way;
ALTER TABLE proposal_part_new RENAME TO proposal_part;
CREATE INDEX proposal_group ON proposal (certainty, book_date, statement_line_id, amount);
CREATE INDEX proposal_part_ref ON proposal_part (kind, ref_id);
-- A channel's day ends so many minutes after midnight; what comes before that is still of the day before.
ALTER TABLE channel ADD COLUMN day_cut INTEGER NOT NULL DEFAULT 0 CHECK (day_cut BETWEEN 0 AND 1439);
-- What a deposit was over is kept for the payer of its invoices.
ALTER TABLE credit_entry ADD COLUMN statement_line_id INTEGER REFERENCES statement_line (id) ON DELETE SET NULL;
ALTER TABLE credit_entry ADD COLUMN payer_id INTEGER REFERENCES payer (id);
CREATE INDEX credit_entry_line ON credit_entry (statement_line_id) WHERE statement_line_id IS NOT NULL;
CREATE INDEX credit_entry_payer ON credit_entry (payer_id) WHERE payer_id IS NOT NULL;
`;
