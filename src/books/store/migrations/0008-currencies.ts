/** Channels in another currency than the books': rates of the day, and balances in an account's own currency. */
export const CURRENCIES = `
-- What one unit of a currency is worth in the books' own, in millionths, from a day on.
CREATE TABLE rate (
  currency TEXT NOT NULL,
  day TEXT NOT NULL,
  rate INTEGER NOT NULL CHECK (rate > 0),
  PRIMARY KEY (currency, day)
) STRICT, WITHOUT ROWID;

-- Debits less credits of the day in the account's own currency; debit and credit are in the books'.
ALTER TABLE account_day ADD COLUMN own INTEGER NOT NULL DEFAULT 0;
UPDATE account_day SET own = debit - credit;
`;
