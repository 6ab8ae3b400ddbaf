/** How money is asked for and given: plans, links to pay by, payments begun on public pages, gifts and registrations. */
export const ASKED_AND_GIVEN = `
CREATE TABLE plan (
  id INTEGER PRIMARY KEY,
  name TEXT NOT NULL,
  payer_id INTEGER NOT NULL REFERENCES payer (id),
  content TEXT NOT NULL,
  recurrence TEXT NOT NULL,
  -- Off until the runs to come were looked at.
  active INTEGER NOT NULL CHECK (active IN (0, 1)),
  -- Periods that began before this day are not billed.
  bills_from TEXT NOT NULL,
  sends INTEGER NOT NULL CHECK (sends IN (0, 1)),
  changed_at TEXT NOT NULL,
  actor TEXT NOT NULL
) STRICT;
CREATE INDEX plan_payer ON plan (payer_id);
CREATE TABLE plan_run (
  plan_id INTEGER NOT NULL REFERENCES plan (id),
  period_from TEXT NOT NULL,
  invoice_id INTEGER NOT NULL REFERENCES invoice (id),
  PRIMARY KEY (plan_id, period_from)
) STRICT, WITHOUT ROWID;
CREATE INDEX plan_run_invoice ON plan_run (invoice_id);

-- Random, and all that a payer needs to see one invoice.
CREATE TABLE pay_link (
  token TEXT PRIMARY KEY,
  invoice_id INTEGER NOT NULL UNIQUE REFERENCES invoice (id),
  made_at TEXT NOT NULL
) STRICT, WITHOUT ROWID;
-- A payment that was begun on a public page, until its receipt is here.
CREATE TABLE payment (
  id INTEGER PRIMARY KEY,
  reference TEXT NOT NULL UNIQUE,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  purpose TEXT NOT NULL CHECK (purpose IN ('invoice', 'gift', 'registration')),
  purpose_id INTEGER NOT NULL,
  amount INTEGER NOT NULL CHECK (amount > 0),
  begun_at TEXT NOT NULL,
  -- The id that the channel will give the receipt: it is here once there is a receipt of it.
  external_id TEXT NOT NULL,
  UNIQUE (channel_id, external_id)
) STRICT;
CREATE INDEX payment_purpose ON payment (purpose, purpose_id);

CREATE TABLE gift_batch (
  id INTEGER PRIMARY KEY,
  reference TEXT NOT NULL,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  first_day TEXT NOT NULL,
  last_day TEXT NOT NULL,
  run_id INTEGER NOT NULL UNIQUE REFERENCES run (id),
  UNIQUE (channel_id, reference)
) STRICT;

-- A page on which anybody may give, or register for an event.
CREATE TABLE public_page (
  id INTEGER PRIMARY KEY,
  token TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL CHECK (kind IN ('giving', 'registration')),
  title TEXT NOT NULL,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  content TEXT NOT NULL,
  open INTEGER NOT NULL CHECK (open IN (0, 1)),
  changed_at TEXT NOT NULL,
  actor TEXT NOT NULL
) STRICT;
-- What somebody wished to give on a giving page.
CREATE TABLE pledge (
  id INTEGER PRIMARY KEY,
  page_id INTEGER NOT NULL REFERENCES public_page (id),
  payer_id INTEGER REFERENCES payer (id),
  content TEXT NOT NULL,
  request TEXT NOT NULL UNIQUE,
  made_at TEXT NOT NULL
) STRICT;
CREATE TABLE registration (
  id INTEGER PRIMARY KEY,
  page_id INTEGER NOT NULL REFERENCES public_page (id),
  payer_id INTEGER NOT NULL REFERENCES payer (id),
  invoice_id INTEGER UNIQUE REFERENCES invoice (id),
  places INTEGER NOT NULL CHECK (places > 0),
  -- Of the form that was sent off: sent off again, it is the same registration.
  request TEXT NOT NULL UNIQUE,
  content TEXT NOT NULL,
  made_at TEXT NOT NULL,
  given_up_at TEXT
) STRICT;
CREATE INDEX registration_page ON registration (page_id) WHERE given_up_at IS NULL;
`;
