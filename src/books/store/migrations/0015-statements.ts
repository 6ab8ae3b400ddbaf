/** Statements of formats that tell no balance; the bank's own ids; lines that are a sum of several payments; lines set aside. */
export const STATEMENTS = `
CREATE TABLE statement_new (
  id INTEGER PRIMARY KEY,
  account_id INTEGER NOT NULL REFERENCES bank_account (account_id),
  reference TEXT NOT NULL,
  -- Null where the format does not tell it.
  opening INTEGER,
  closing INTEGER,
  first_day TEXT,
  last_day TEXT,
  run_id INTEGER NOT NULL REFERENCES run (id)
) STRICT;
INSERT INTO statement_new SELECT id, account_id, reference, opening, closing, first_day, last_day, run_id FROM statement;
DROP TABLE statement;
ALTER TABLE statement_new RENAME TO statement;
CREATE INDEX statement_run ON statement (run_id);
CREATE INDEX statement_account ON statement (account_id, last_day);

ALTER TABLE statement_line ADD COLUMN bank_id TEXT NOT NULL DEFAULT '';
-- Why nothing is to be explained of it: money that these books do not keep.
ALTER TABLE statement_line ADD COLUMN aside TEXT;
CREATE INDEX statement_line_day ON statement_line (account_id, book_date, amount);
-- The payments of a line that the bank booked as a sum; together they are its amount.
CREATE TABLE statement_line_detail (
  line_id INTEGER NOT NULL REFERENCES statement_line (id) ON DELETE CASCADE,
  no INTEGER NOT NULL,
  amount INTEGER NOT NULL,
  text TEXT NOT NULL,
  counterparty TEXT NOT NULL,
  reference TEXT NOT NULL,
  PRIMARY KEY (line_id, no)
) STRICT, WITHOUT ROWID;
-- How a bank's table was read, by its header.
CREATE TABLE statement_profile (
  fingerprint TEXT PRIMARY KEY,
  settings TEXT NOT NULL,
  used_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
`;
