/** Payers may share an email; who is meant is asked, and payers can be merged. */
export const SAME_PAYERS = `
DROP INDEX payer_email;
CREATE INDEX payer_email ON payer (email) WHERE email <> '';
-- The payer that this one was found to be: it is kept for its name, and nothing new is put under it.
ALTER TABLE payer ADD COLUMN merged_into INTEGER REFERENCES payer (id);

-- Other names and emails that a payer is known by.
CREATE TABLE payer_alias (
  name TEXT NOT NULL,
  email TEXT NOT NULL,
  payer_id INTEGER NOT NULL REFERENCES payer (id),
  PRIMARY KEY (name, email)
) STRICT, WITHOUT ROWID;
CREATE INDEX payer_alias_email ON payer_alias (email) WHERE email <> '';

-- "Name <email>" as it came, where it is not certain whether its payer is meant: somebody is asked.
ALTER TABLE receipt ADD COLUMN payer_said TEXT;
CREATE INDEX receipt_payer_said ON receipt (payer_said, payer_id, gross) WHERE payer_said IS NOT NULL;
`;
