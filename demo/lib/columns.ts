/** The columns of this program's own files, as its users would write them; with spaces between the words of one. */
const columns = (text: string) => text.split(', ');

export const DESK_COLUMNS = columns(
  'Id, Type, Time, Currency, Gross, Fee, Net, Payer, Email, Document, Item, Note, Payout, Refund of',
);
export const INVOICE_COLUMNS = columns(
  'Number, Payer, Email, Issued, Due, Currency, Item, Description, Net, Tax code, Tax',
);
