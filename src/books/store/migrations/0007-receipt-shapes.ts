/** Receipts of every shape: chargebacks, several lines and tenders, and money that clearing holds in part only. */
export const RECEIPT_SHAPES = `
CREATE TABLE new_receipt (
  id INTEGER PRIMARY KEY,
  channel_id INTEGER NOT NULL REFERENCES channel (id),
  external_id TEXT NOT NULL,
  -- A chargeback is below zero where it is opened, above where it was won.
  kind TEXT NOT NULL CHECK (kind IN ('receipt', 'refund', 'chargeback')),
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
  match_id INTEGER REFERENCES match (id),
  run_id INTEGER NOT NULL REFERENCES run (id),
  payout_run_id INTEGER REFERENCES run (id),
  invoice_id INTEGER REFERENCES invoice (id),
  site_id INTEGER REFERENCES site (id),
  method TEXT NOT NULL DEFAULT '',
  country TEXT NOT NULL DEFAULT '',
  region TEXT NOT NULL DEFAULT '',
  fund TEXT NOT NULL DEFAULT '',
  discount INTEGER NOT NULL DEFAULT 0,
  landing TEXT,
  aside TEXT,
  -- What of its gross the channel's clearing account does not hold, once it is posted: cash, gift cards used.
  not_held INTEGER NOT NULL DEFAULT 0,
  -- What clearing holds of it in the books' own currency, once it is posted; null where that is the channel's too.
  carried INTEGER,
  UNIQUE (channel_id, external_id)
) STRICT;
INSERT INTO new_receipt
  SELECT id, channel_id, external_id, kind, occurred_at, book_date, currency, gross, tip, fee, payer_id, document, item_id,
    note, refund_of, payout_ref, payout_id, journal_id, revision, match_id, run_id, payout_run_id, invoice_id, site_id,
    method, country, region, fund, discount, landing, aside, CASE elsewhere WHEN 1 THEN gross ELSE 0 END, NULL
  FROM receipt;
DROP TABLE receipt;
ALTER TABLE new_receipt RENAME TO receipt;
CREATE INDEX receipt_date ON receipt (book_date, id, gross, fee);
CREATE INDEX receipt_not_posted ON receipt (book_date, id, gross, fee) WHERE journal_id IS NULL AND aside IS NULL;
CREATE INDEX receipt_aside ON receipt (book_date, id, gross) WHERE aside IS NOT NULL;
CREATE INDEX receipt_journal ON receipt (journal_id) WHERE journal_id IS NOT NULL;
CREATE INDEX receipt_payout ON receipt (payout_id) WHERE payout_id IS NOT NULL;
CREATE INDEX receipt_payout_ref ON receipt (payout_ref) WHERE payout_id IS NULL AND payout_ref <> '';
CREATE INDEX receipt_not_paid_out ON receipt (book_date, id) WHERE payout_ref = '' AND match_id IS NULL;
CREATE INDEX receipt_waiting ON receipt (channel_id, gross, fee, not_held)
  WHERE payout_id IS NULL AND match_id IS NULL AND journal_id IS NOT NULL AND not_held <> gross;
CREATE INDEX receipt_not_banked ON receipt (book_date, id, payout_id, gross, fee, not_held)
  WHERE journal_id IS NOT NULL AND match_id IS NULL;
CREATE INDEX receipt_payer ON receipt (payer_id);
CREATE INDEX receipt_run ON receipt (run_id);
CREATE INDEX receipt_match ON receipt (match_id) WHERE match_id IS NOT NULL;
CREATE INDEX receipt_invoice ON receipt (invoice_id) WHERE invoice_id IS NOT NULL;
CREATE INDEX receipt_unknown_document ON receipt (document, kind, gross) WHERE document <> '' AND invoice_id IS NULL;
CREATE INDEX receipt_site_day ON receipt (channel_id, site_id, book_date);

-- What a receipt was for, where that is more than one thing: a till's day, an order of several items.
CREATE TABLE receipt_line (
  receipt_id INTEGER NOT NULL REFERENCES receipt (id) ON DELETE CASCADE,
  line_no INTEGER NOT NULL,
  item_id INTEGER REFERENCES item (id),
  description TEXT NOT NULL,
  -- Thousandths.
  units INTEGER NOT NULL,
  -- Paid for it, tax included and after its discount.
  gross INTEGER NOT NULL,
  discount INTEGER NOT NULL,
  -- The source's own figure; null where it says none.
  tax INTEGER,
  PRIMARY KEY (receipt_id, line_no)
) STRICT, WITHOUT ROWID;
-- What it was paid with, where that is more than one: they come to its gross.
CREATE TABLE receipt_tender (
  receipt_id INTEGER NOT NULL REFERENCES receipt (id) ON DELETE CASCADE,
  tender TEXT NOT NULL,
  amount INTEGER NOT NULL,
  PRIMARY KEY (receipt_id, tender)
) STRICT, WITHOUT ROWID;

-- What the source says now it is made of, as one text (books/receipts, STAGED_SHAPE); null for a receipt of one thing.
ALTER TABLE receipt_change ADD COLUMN shape TEXT;

-- Receipts here with other figures now, apart from those that only came into a payout.
ALTER TABLE run ADD COLUMN changed INTEGER NOT NULL DEFAULT 0;
`;
