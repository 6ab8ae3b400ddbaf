/** How files of receipts are read, and by which names channels know payers. */
export const PROFILES = `
-- A reading that was confirmed for files with this header (formats/receipts, headerFingerprint).
CREATE TABLE profile (
  fingerprint TEXT PRIMARY KEY,
  settings TEXT NOT NULL,
  used_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;

-- The channel's own id of a payer.
CREATE TABLE payer_external (
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  external_id TEXT NOT NULL,
  payer_id INTEGER NOT NULL REFERENCES payer (id),
  PRIMARY KEY (channel_id, external_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX payer_external_payer ON payer_external (payer_id);
`;
