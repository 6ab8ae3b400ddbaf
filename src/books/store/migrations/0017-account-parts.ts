/** What of a line is booked straight to an account is a part like any other; and the rules for money that is no channel's. */
export const ACCOUNT_PARTS = `
CREATE TABLE match_part_new (
  match_id INTEGER NOT NULL REFERENCES match (id),
  part_no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice', 'account')),
  ref_id INTEGER NOT NULL,
  -- What clearing, the receivable or the account gives up, and what of it the schedule takes as fee.
  gross INTEGER NOT NULL,
  fee INTEGER NOT NULL,
  live INTEGER NOT NULL CHECK (live IN (0, 1)),
  -- Of an account: its dimensions, tax code and the rule that said so, as JSON.
  detail TEXT NOT NULL DEFAULT '{}',
  PRIMARY KEY (match_id, part_no)
) STRICT, WITHOUT ROWID;
INSERT INTO match_part_new (match_id, part_no, kind, ref_id, gross, fee, live)
  SELECT match_id, part_no, kind, ref_id, gross, fee, live FROM match_part;
DROP TABLE match_part;
ALTER TABLE match_part_new RENAME TO match_part;
CREATE UNIQUE INDEX match_part_once ON match_part (kind, ref_id) WHERE live = 1 AND kind IN ('payout', 'receipt');
CREATE INDEX match_part_ref ON match_part (kind, ref_id);

CREATE TABLE proposal_part_new (
  statement_line_id INTEGER NOT NULL,
  rank INTEGER NOT NULL,
  no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice', 'account')),
  ref_id INTEGER NOT NULL,
  -- Of an invoice how much of it, of an account how much on it, minor units; of all else 0.
  amount INTEGER NOT NULL,
  detail TEXT NOT NULL DEFAULT '{}',
  PRIMARY KEY (statement_line_id, rank, no),
  FOREIGN KEY (statement_line_id, rank) REFERENCES proposal_way (statement_line_id, rank) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;
INSERT INTO proposal_part_new (statement_line_id, rank, no, kind, ref_id, amount)
  SELECT statement_line_id, rank, no, kind, ref_id, amount FROM proposal_part;
DROP TABLE proposal_part;
ALTER TABLE proposal_part_new RENAME TO proposal_part;
CREATE INDEX proposal_part_ref ON proposal_part (kind, ref_id);

-- What was confirmed up to this day teaches nothing of the channel any more.
ALTER TABLE channel ADD COLUMN learns_from TEXT;

CREATE TABLE statement_rule (
  id INTEGER PRIMARY KEY,
  position INTEGER NOT NULL UNIQUE,
  name TEXT NOT NULL,
  active INTEGER NOT NULL CHECK (active IN (0, 1)),
  conditions TEXT NOT NULL,
  result TEXT NOT NULL,
  changed_at TEXT NOT NULL,
  actor TEXT NOT NULL
) STRICT;
`;
