/** Deposits that are booked straight to income though something in the books explains them: the money may count twice. */
export const DOUBLED = `
CREATE TABLE doubled (
  statement_line_id INTEGER PRIMARY KEY REFERENCES statement_line (id) ON DELETE CASCADE,
  certainty TEXT NOT NULL CHECK (certainty IN ('proven', 'probable')),
  reasons TEXT NOT NULL,
  -- Where the rest goes, if the parts do not come to the line.
  rest_account_id INTEGER REFERENCES account (id),
  -- 1 where somebody said that it is other money.
  denied INTEGER NOT NULL DEFAULT 0 CHECK (denied IN (0, 1))
) STRICT;
CREATE TABLE doubled_part (
  statement_line_id INTEGER NOT NULL REFERENCES doubled (statement_line_id) ON DELETE CASCADE,
  no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice')),
  ref_id INTEGER NOT NULL,
  -- Of an invoice how much of it, minor units; of all else 0.
  amount INTEGER NOT NULL,
  PRIMARY KEY (statement_line_id, no)
) STRICT, WITHOUT ROWID;
CREATE INDEX doubled_part_ref ON doubled_part (kind, ref_id);
-- What is to explain of an account is counted and summed from the index alone.
DROP INDEX statement_line_to_explain;
CREATE INDEX statement_line_to_explain ON statement_line (account_id, amount, aside) WHERE match_id IS NULL;
-- What is booked to an account as the rest of a sheet.
CREATE INDEX match_rest ON match (rest_account_id) WHERE rest_account_id IS NOT NULL AND undone_at IS NULL;
`;
