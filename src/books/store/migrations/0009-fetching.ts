/** Channels and banks that are reached over the network: their connections, what came of each run, and mail. */
export const FETCHING = `
CREATE TABLE connection (
  id INTEGER PRIMARY KEY,
  -- One of the two: the channel, or the bank account, that is fetched.
  channel_id INTEGER UNIQUE REFERENCES channel (id),
  account_id INTEGER UNIQUE REFERENCES bank_account (account_id),
  address TEXT NOT NULL,
  secret TEXT NOT NULL,
  -- How far the other side's list of changes has been read.
  cursor INTEGER NOT NULL DEFAULT 0,
  -- By hand, or each day, week or month at a time of the books' zone (books/fetching/schedule).
  schedule TEXT NOT NULL,
  -- Runs due up to here were made; in the books' own time.
  scheduled_to TEXT NOT NULL,
  mail_to TEXT NOT NULL DEFAULT '',
  CHECK ((channel_id IS NULL) <> (account_id IS NULL))
) STRICT;

-- One run of a connection, whatever came of it.
CREATE TABLE fetch_run (
  id INTEGER PRIMARY KEY,
  connection_id INTEGER NOT NULL REFERENCES connection (id),
  began_by TEXT NOT NULL CHECK (began_by IN ('hand', 'schedule', 'event')),
  actor TEXT NOT NULL,
  started_at TEXT NOT NULL,
  ended_at TEXT NOT NULL,
  outcome TEXT NOT NULL CHECK (outcome IN ('done', 'failed', 'cancelled')),
  added INTEGER NOT NULL,
  changed INTEGER NOT NULL,
  refused INTEGER NOT NULL,
  posted INTEGER NOT NULL,
  -- Questions that had to be asked again because the other side was busy or down.
  retries INTEGER NOT NULL,
  -- Why it failed, or why records were refused; empty where all went well.
  why TEXT NOT NULL,
  run_id INTEGER REFERENCES run (id),
  -- The address the log was mailed to; empty where it was not.
  mailed_to TEXT NOT NULL
) STRICT;
CREATE INDEX fetch_run_connection ON fetch_run (connection_id, id);

-- Signed events are delivered at least once, in any order: each is taken in once.
CREATE TABLE channel_event (
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  event_id TEXT NOT NULL,
  made_at TEXT NOT NULL,
  received_at TEXT NOT NULL,
  about TEXT NOT NULL,
  -- The run that fetched what it was about; null while that is still to come.
  fetch_run_id INTEGER REFERENCES fetch_run (id),
  PRIMARY KEY (channel_id, event_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX channel_event_open ON channel_event (channel_id) WHERE fetch_run_id IS NULL;

-- What a channel said it held, at a moment.
CREATE TABLE reading (
  id INTEGER PRIMARY KEY,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  read_at TEXT NOT NULL,
  book_date TEXT NOT NULL,
  currency TEXT NOT NULL,
  amount INTEGER NOT NULL
) STRICT;
CREATE INDEX reading_channel ON reading (channel_id, book_date);

-- Mail that was made: kept here, and sent on where a mail server is configured.
CREATE TABLE mail (
  id INTEGER PRIMARY KEY,
  made_at TEXT NOT NULL,
  recipient TEXT NOT NULL,
  subject TEXT NOT NULL,
  body TEXT NOT NULL,
  sent_at TEXT
) STRICT;
`;
