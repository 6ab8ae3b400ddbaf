/** What of receipts and payouts the clearing account does not hold, or holds at gross. */
export const HELD = `
-- Posted, and deposited elsewhere than in the channel's clearing account: in a cash box, say.
ALTER TABLE receipt ADD COLUMN elsewhere INTEGER NOT NULL DEFAULT 0 CHECK (elsewhere IN (0, 1));
DROP INDEX receipt_waiting;
CREATE INDEX receipt_waiting ON receipt (channel_id, gross, fee)
  WHERE payout_id IS NULL AND match_id IS NULL AND journal_id IS NOT NULL AND elsewhere = 0;

DROP INDEX receipt_not_banked;
CREATE INDEX receipt_not_banked ON receipt (book_date, id, payout_id, gross, fee, elsewhere)
  WHERE journal_id IS NOT NULL AND match_id IS NULL;

-- Receipts of the payout whose fee the channel does not state; what is missing from its net is then their fee.
ALTER TABLE payout ADD COLUMN unstated INTEGER NOT NULL DEFAULT 0;
UPDATE payout SET unstated = (SELECT count(*) FROM receipt WHERE payout_id = payout.id AND fee IS NULL);
`;
