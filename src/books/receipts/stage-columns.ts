/** The staging tables of a file of receipts: the movements, and what several-line receipts are made of by the line they begin on. */
export const RECEIPT_COLUMNS = `
  line INTEGER PRIMARY KEY, kind TEXT NOT NULL, external_id TEXT NOT NULL, occurred_at TEXT NOT NULL,
  book_date TEXT NOT NULL, expected_on TEXT, currency TEXT NOT NULL, gross INTEGER NOT NULL, tip INTEGER NOT NULL,
  fee INTEGER, payer TEXT NOT NULL, email TEXT NOT NULL, document TEXT NOT NULL, item TEXT NOT NULL,
  note TEXT NOT NULL, payout TEXT NOT NULL, refund_of TEXT NOT NULL, reference_key TEXT,
  discount INTEGER NOT NULL, payer_ref TEXT NOT NULL, method TEXT NOT NULL, site_id INTEGER, country TEXT NOT NULL,
  region TEXT NOT NULL, fund TEXT NOT NULL, action TEXT NOT NULL, known_id INTEGER`;

export const LINE_COLUMNS = `
  line INTEGER NOT NULL, line_no INTEGER NOT NULL, item TEXT NOT NULL, description TEXT NOT NULL,
  units INTEGER NOT NULL, gross INTEGER NOT NULL, discount INTEGER NOT NULL, tax INTEGER, PRIMARY KEY (line, line_no)`;

export const TENDER_COLUMNS = `
  line INTEGER NOT NULL, tender TEXT NOT NULL, amount INTEGER NOT NULL, PRIMARY KEY (line, tender)`;
