/** An item that was merged into another; and what invoices have open, payer by payer, without a look at their entries. */
export const MERGED_ITEMS = `
ALTER TABLE item ADD COLUMN merged_into INTEGER REFERENCES item (id);
CREATE INDEX invoice_open_payer ON invoice (payer_id, due, gross, paid, journal_id)
  WHERE journal_id IS NOT NULL AND paid <> gross;
`;
