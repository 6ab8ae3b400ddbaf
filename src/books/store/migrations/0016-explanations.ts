/** A proposal may be made of several parts of any kind, and name several ways to explain its line. */
export const EXPLANATIONS = `
-- Whether payouts explain a line was asked first; 1 where invoices and receipts had the last word.
ALTER TABLE proposal ADD COLUMN deep INTEGER NOT NULL DEFAULT 0;
-- The ways to explain a line, best first; the one that is laid on its sheet is number 0.
CREATE TABLE proposal_way (
  statement_line_id INTEGER NOT NULL REFERENCES proposal (statement_line_id) ON DELETE CASCADE,
  rank INTEGER NOT NULL,
  laid INTEGER NOT NULL CHECK (laid IN (0, 1)),
  reasons TEXT NOT NULL,
  PRIMARY KEY (statement_line_id, rank)
) STRICT, WITHOUT ROWID;
CREATE TABLE proposal_part (
  statement_line_id INTEGER NOT NULL,
  rank INTEGER NOT NULL,
  no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice')),
  ref_id INTEGER NOT NULL,
  -- Of an invoice how much of it, minor units; of all else 0.
  amount INTEGER NOT NULL,
  PRIMARY KEY (statement_line_id, rank, no),
  FOREIGN KEY (statement_line_id, rank) REFERENCES proposal_way (statement_line_id, rank) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;
CREATE INDEX proposal_part_ref ON proposal_part (kind, ref_id);
INSERT INTO proposal_way SELECT statement_line_id, rank, laid, reasons FROM proposal_payout;
UPDATE proposal_way SET reasons = (SELECT reasons FROM proposal q WHERE q.statement_line_id = proposal_way.statement_line_id) WHERE laid = 1;
INSERT INTO proposal_part SELECT statement_line_id, rank, 1, 'payout', payout_id, 0 FROM proposal_payout;
DROP TABLE proposal_payout;
CREATE INDEX statement_line_aside ON statement_line (book_date, id) WHERE aside IS NOT NULL;
`;
