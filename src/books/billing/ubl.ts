import { writeUbl, type UblDocument, type UblParty } from '@/formats/ubl/ubl';
import type { CreditNoteDocument, DocumentPayer, InvoiceDocument } from './document';

const partyOf = ({ name, address, country, taxNumber, email }: DocumentPayer): UblParty => ({
  name,
  address,
  country,
  taxNumber,
  email,
});

type Common = Pick<InvoiceDocument, 'from' | 'to' | 'number' | 'issued' | 'lines' | 'taxes' | 'net' | 'tax' | 'gross'>;

function common(document: Common): Omit<UblDocument, 'kind' | 'due' | 'note' | 'reference' | 'prepaid' | 'of'> {
  const { from, to, number, issued, taxes, net, tax, gross } = document;
  return {
    ...{ number, issued, taxes, net, tax, gross },
    currency: from.currency,
    from: partyOf(from),
    to: { ...partyOf(to), country: to.country || from.country },
    bank: from.bank,
    lines: document.lines.map(({ itemName, description, quantity, unit, price, net: of, category, rate }) => ({
      name: itemName,
      description,
      quantity,
      unit,
      price,
      net: of,
      category,
      rate,
    })),
  };
}

/** An invoice as UBL. */
export function invoiceUbl(invoice: InvoiceDocument): string {
  const { due, note, reference, paid } = invoice;
  return writeUbl({ ...common(invoice), kind: 'invoice', due, note, reference, prepaid: paid, of: null });
}

/** A credit note as UBL. */
export function creditNoteUbl(note: CreditNoteDocument): string {
  return writeUbl({
    ...common(note),
    kind: 'credit-note',
    due: null,
    note: note.why,
    reference: '',
    prepaid: 0,
    of: note.invoice,
  });
}
