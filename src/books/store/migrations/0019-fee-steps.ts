/** What a channel takes may change on a day: agreed, or told by what it took of what was confirmed. */
export const FEE_STEPS = `
CREATE TABLE fee_step (
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  since TEXT NOT NULL,
  rate INTEGER NOT NULL CHECK (rate BETWEEN 0 AND 10000),
  fixed INTEGER NOT NULL CHECK (fixed >= 0),
  learnt INTEGER NOT NULL CHECK (learnt IN (0, 1)),
  -- Of what was learnt: how many sums fit it to the cent, of how many.
  fit INTEGER NOT NULL DEFAULT 0,
  looked_at INTEGER NOT NULL DEFAULT 0,
  PRIMARY KEY (channel_id, since)
) STRICT, WITHOUT ROWID;
`;
