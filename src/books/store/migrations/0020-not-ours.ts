/** A line may be no receivable at all: what a statement rule books to anything but income stands apart. */
export const NOT_OURS = `
CREATE TABLE proposal_new (
  statement_line_id INTEGER PRIMARY KEY REFERENCES statement_line (id) ON DELETE CASCADE,
  certainty TEXT NOT NULL CHECK (certainty IN ('proven', 'probable', 'open', 'none', 'not-due', 'not-ours')),
  book_date TEXT NOT NULL,
  amount INTEGER NOT NULL,
  reasons TEXT NOT NULL,
  deep INTEGER NOT NULL DEFAULT 0
) STRICT;
INSERT INTO proposal_new SELECT q.statement_line_id, CASE WHEN q.certainty = 'probable' AND EXISTS (
    SELECT 1 FROM proposal_part x JOIN account a ON a.id = x.ref_id
    WHERE x.statement_line_id = q.statement_line_id AND x.rank = 0 AND x.no = 1 AND x.kind = 'account'
      AND x.detail ->> 'ruleId' IS NOT NULL AND a.class <> 'income')
  THEN 'not-ours' ELSE q.certainty END, q.book_date, q.amount, q.reasons, q.deep FROM proposal q;
DROP TABLE proposal;
ALTER TABLE proposal_new RENAME TO proposal;
CREATE INDEX proposal_group ON proposal (certainty, book_date, statement_line_id, amount);
`;
