/** Names of payers at the bank: which are kept for that, and which are not to be offered again. */
export const BANK_NAMES = `
-- A name that is kept because the bank uses it: the page of what was learnt shows it, and forgets it again.
ALTER TABLE payer_alias ADD COLUMN at_bank INTEGER NOT NULL DEFAULT 0 CHECK (at_bank IN (0, 1));
UPDATE payer_alias SET at_bank = 1
WHERE email = '' AND name IN (SELECT counterparty FROM statement_line WHERE counterparty <> '');
-- What deposits told of a payer's name, and somebody does not want to hear again.
CREATE TABLE forgotten_name (
  payer_id INTEGER NOT NULL REFERENCES payer (id),
  name TEXT NOT NULL,
  PRIMARY KEY (payer_id, name)
) STRICT, WITHOUT ROWID;
`;
