/** What is owed, what was collected, what was paid out, what reached the bank, and what explains it. */
export const MONEY_IN = `
-- One file brought in: what it was, when, by whom, and what came of it.
CREATE TABLE run (
  id INTEGER PRIMARY KEY,
  kind TEXT NOT NULL CHECK (kind IN ('invoices', 'receipts', 'statement')),
  file_name TEXT NOT NULL,
  sha256 TEXT NOT NULL,
  bytes INTEGER NOT NULL,
  started_at TEXT NOT NULL,
  ended_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  added INTEGER NOT NULL,
  updated INTEGER NOT NULL,
  known INTEGER NOT NULL,
  refused INTEGER NOT NULL,
  undone_at TEXT
) STRICT;
CREATE TABLE run_finding (
  run_id INTEGER NOT NULL REFERENCES run (id),
  finding_no INTEGER NOT NULL,
  line INTEGER,
  finding TEXT NOT NULL,
  PRIMARY KEY (run_id, finding_no)
) STRICT, WITHOUT ROWID;

CREATE TABLE invoice (
  id INTEGER PRIMARY KEY,
  number TEXT NOT NULL UNIQUE,
  payer_id INTEGER NOT NULL REFERENCES payer (id),
  issued TEXT NOT NULL,
  due TEXT NOT NULL,
  currency TEXT NOT NULL,
  net INTEGER NOT NULL,
  tax INTEGER NOT NULL,
  gross INTEGER NOT NULL CHECK (gross > 0),
  -- Sum of its allocations.
  paid INTEGER NOT NULL DEFAULT 0,
  journal_id INTEGER REFERENCES journal (id),
  revision INTEGER NOT NULL DEFAULT 0,
  run_id INTEGER NOT NULL REFERENCES run (id)
) STRICT;
CREATE INDEX invoice_issued ON invoice (issued, id, gross, paid);
CREATE INDEX invoice_not_posted ON invoice (issued, id, gross) WHERE journal_id IS NULL;
CREATE INDEX invoice_open ON invoice (due, id, gross, paid) WHERE journal_id IS NOT NULL AND paid < gross;
CREATE INDEX invoice_payer ON invoice (payer_id);
CREATE INDEX invoice_run ON invoice (run_id);
CREATE TABLE invoice_line (
  invoice_id INTEGER NOT NULL REFERENCES invoice (id) ON DELETE CASCADE,
  line_no INTEGER NOT NULL,
  item_id INTEGER NOT NULL REFERENCES item (id),
  description TEXT NOT NULL,
  net INTEGER NOT NULL,
  tax_code_id INTEGER NOT NULL REFERENCES tax_code (id),
  tax INTEGER NOT NULL,
  PRIMARY KEY (invoice_id, line_no)
) STRICT, WITHOUT ROWID;

-- What a journal settled of an invoice; a reversal adds the opposite.
CREATE TABLE allocation (
  id INTEGER PRIMARY KEY,
  invoice_id INTEGER NOT NULL REFERENCES invoice (id),
  journal_id INTEGER NOT NULL REFERENCES journal (id),
  amount INTEGER NOT NULL
) STRICT;
CREATE INDEX allocation_invoice ON allocation (invoice_id);
CREATE INDEX allocation_journal ON allocation (journal_id);

CREATE TABLE payout (
  id INTEGER PRIMARY KEY,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  external_id TEXT NOT NULL,
  paid_at TEXT NOT NULL,
  book_date TEXT NOT NULL,
  expected_on TEXT NOT NULL,
  currency TEXT NOT NULL,
  net INTEGER NOT NULL CHECK (net > 0),
  -- What the books know of the receipts in it; fee counts only what is stated.
  receipt_count INTEGER NOT NULL DEFAULT 0,
  receipt_gross INTEGER NOT NULL DEFAULT 0,
  receipt_fee INTEGER NOT NULL DEFAULT 0,
  match_id INTEGER REFERENCES match (id),
  run_id INTEGER NOT NULL REFERENCES run (id),
  UNIQUE (channel_id, external_id)
) STRICT;
CREATE INDEX payout_date ON payout (book_date, id, net);
CREATE INDEX payout_free ON payout (net, book_date) WHERE match_id IS NULL;
CREATE INDEX payout_run ON payout (run_id);

CREATE TABLE receipt (
  id INTEGER PRIMARY KEY,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  external_id TEXT NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('receipt', 'refund')),
  occurred_at TEXT NOT NULL,
  book_date TEXT NOT NULL,
  currency TEXT NOT NULL,
  gross INTEGER NOT NULL,
  tip INTEGER NOT NULL,
  fee INTEGER,
  payer_id INTEGER REFERENCES payer (id),
  document TEXT NOT NULL,
  item_id INTEGER REFERENCES item (id),
  note TEXT NOT NULL,
  refund_of TEXT NOT NULL,
  payout_ref TEXT NOT NULL,
  payout_id INTEGER REFERENCES payout (id),
  journal_id INTEGER REFERENCES journal (id),
  revision INTEGER NOT NULL DEFAULT 0,
  -- The match that explains a deposit by this receipt itself, where no payout carries it.
  match_id INTEGER REFERENCES match (id),
  run_id INTEGER NOT NULL REFERENCES run (id),
  -- The run that said which payout it is in, where that came later than the receipt.
  payout_run_id INTEGER REFERENCES run (id),
  UNIQUE (channel_id, external_id)
) STRICT;
CREATE INDEX receipt_date ON receipt (book_date, id, gross, fee);
CREATE INDEX receipt_not_posted ON receipt (book_date, id, gross, fee) WHERE journal_id IS NULL;
CREATE INDEX receipt_payout ON receipt (payout_id) WHERE payout_id IS NOT NULL;
CREATE INDEX receipt_payout_ref ON receipt (payout_ref) WHERE payout_id IS NULL AND payout_ref <> '';
CREATE INDEX receipt_not_paid_out ON receipt (book_date, id) WHERE payout_ref = '' AND match_id IS NULL;
CREATE INDEX receipt_document ON receipt (document, kind, gross) WHERE document <> '';
CREATE INDEX receipt_waiting ON receipt (channel_id, gross, fee)
  WHERE payout_id IS NULL AND match_id IS NULL AND journal_id IS NOT NULL;
CREATE INDEX receipt_payer ON receipt (payer_id);
CREATE INDEX receipt_run ON receipt (run_id);
CREATE INDEX receipt_match ON receipt (match_id) WHERE match_id IS NOT NULL;

CREATE TABLE statement (
  id INTEGER PRIMARY KEY,
  account_id INTEGER NOT NULL REFERENCES bank_account (account_id),
  reference TEXT NOT NULL,
  opening INTEGER NOT NULL,
  closing INTEGER NOT NULL,
  first_day TEXT,
  last_day TEXT,
  run_id INTEGER NOT NULL REFERENCES run (id)
) STRICT;
CREATE INDEX statement_run ON statement (run_id);

CREATE TABLE statement_line (
  id INTEGER PRIMARY KEY,
  statement_id INTEGER NOT NULL REFERENCES statement (id),
  account_id INTEGER NOT NULL REFERENCES bank_account (account_id),
  book_date TEXT NOT NULL,
  value_date TEXT NOT NULL,
  amount INTEGER NOT NULL,
  currency TEXT NOT NULL,
  text TEXT NOT NULL,
  counterparty TEXT NOT NULL,
  reference TEXT NOT NULL,
  file_line INTEGER NOT NULL,
  fingerprint TEXT NOT NULL,
  occurrence INTEGER NOT NULL,
  match_id INTEGER REFERENCES match (id),
  run_id INTEGER NOT NULL REFERENCES run (id),
  UNIQUE (account_id, fingerprint, occurrence)
) STRICT;
CREATE INDEX statement_line_date ON statement_line (book_date, id, amount);
CREATE INDEX statement_line_free ON statement_line (amount, book_date) WHERE match_id IS NULL;
CREATE INDEX statement_line_to_explain ON statement_line (account_id, amount) WHERE match_id IS NULL;
CREATE INDEX statement_line_run ON statement_line (run_id);

CREATE TABLE match (
  id INTEGER PRIMARY KEY,
  confirmed_at TEXT NOT NULL,
  actor TEXT NOT NULL,
  certainty TEXT NOT NULL,
  reasons TEXT NOT NULL,
  journal_id INTEGER NOT NULL REFERENCES journal (id),
  rest INTEGER NOT NULL,
  rest_account_id INTEGER REFERENCES account (id),
  undone_at TEXT
) STRICT;
CREATE TABLE match_line (
  match_id INTEGER NOT NULL REFERENCES match (id),
  statement_line_id INTEGER NOT NULL REFERENCES statement_line (id),
  live INTEGER NOT NULL CHECK (live IN (0, 1)),
  PRIMARY KEY (match_id, statement_line_id)
) STRICT, WITHOUT ROWID;
CREATE UNIQUE INDEX match_line_once ON match_line (statement_line_id) WHERE live = 1;
CREATE TABLE match_part (
  match_id INTEGER NOT NULL REFERENCES match (id),
  part_no INTEGER NOT NULL,
  kind TEXT NOT NULL CHECK (kind IN ('payout', 'receipt', 'invoice')),
  ref_id INTEGER NOT NULL,
  -- What clearing or the receivable gives up, and what of it the schedule takes as fee.
  gross INTEGER NOT NULL,
  fee INTEGER NOT NULL,
  live INTEGER NOT NULL CHECK (live IN (0, 1)),
  PRIMARY KEY (match_id, part_no)
) STRICT, WITHOUT ROWID;
CREATE UNIQUE INDEX match_part_once ON match_part (kind, ref_id) WHERE live = 1 AND kind <> 'invoice';
CREATE INDEX match_part_ref ON match_part (kind, ref_id);

-- What the matching engine says of each statement line that is not confirmed.
CREATE TABLE proposal (
  statement_line_id INTEGER PRIMARY KEY REFERENCES statement_line (id) ON DELETE CASCADE,
  certainty TEXT NOT NULL CHECK (certainty IN ('proven', 'probable', 'open', 'none')),
  book_date TEXT NOT NULL,
  amount INTEGER NOT NULL,
  reasons TEXT NOT NULL
) STRICT;
CREATE INDEX proposal_group ON proposal (certainty, book_date, statement_line_id, amount);
-- The payouts a proposal names: the one laid on the sheet, and the others that would fit, best first.
CREATE TABLE proposal_payout (
  statement_line_id INTEGER NOT NULL REFERENCES proposal (statement_line_id) ON DELETE CASCADE,
  rank INTEGER NOT NULL,
  payout_id INTEGER NOT NULL REFERENCES payout (id),
  laid INTEGER NOT NULL CHECK (laid IN (0, 1)),
  reasons TEXT NOT NULL,
  PRIMARY KEY (statement_line_id, rank)
) STRICT, WITHOUT ROWID;
CREATE INDEX proposal_payout_by_payout ON proposal_payout (payout_id);
`;
