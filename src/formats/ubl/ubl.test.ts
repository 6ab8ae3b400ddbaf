import fc from 'fast-check';
import { SaxesParser } from 'saxes';
import { minor } from '@/core/money';
import { billLines } from '@/core/receivables';
import { writeUbl, type UblDocument } from './ubl';

/** An independent reading: what each element of a path says, in the order of the document. */
function read(xml: string): Map<string, string[]> {
  const found = new Map<string, string[]>();
  const path: string[] = [];
  let text = '';
  const parser = new SaxesParser({ xmlns: true });
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ local }) => {
    path.push(local);
    text = '';
  });
  parser.on('text', (part) => (text += part));
  parser.on('closetag', () => {
    const key = path.slice(1).join('/');
    found.set(key, [...(found.get(key) ?? []), text]);
    path.pop();
    text = '';
  });
  parser.write(xml).close();
  return found;
}

const cents = (text: string) => Math.round(Number(text) * 100);
const party = {
  name: 'A & B <Sails>',
  address: '1 Quay\nTernport',
  country: 'IE',
  taxNumber: 'IE1',
  email: 'a@b.example',
};

function documentOf(
  lines: readonly { quantity: number; price: number; discount: number; rate: number }[],
  more: Partial<UblDocument> = {},
): UblDocument {
  const billed = billLines(lines.map((line) => ({ ...line, price: minor(line.price), taxCode: line.rate })));
  const rates = [...new Set(lines.map(({ rate }) => rate))];
  const totals = rates.map((rate) => {
    const of = billed.filter((_, index) => lines[index]!.rate === rate);
    return {
      category: rate === 0 ? 'Z' : 'S',
      rate,
      net: of.reduce((sum, one) => sum + one.net, 0),
      tax: of.reduce((sum, one) => sum + one.tax, 0),
    };
  });
  const net = totals.reduce((sum, one) => sum + one.net, 0);
  const tax = totals.reduce((sum, one) => sum + one.tax, 0);
  return {
    kind: 'invoice',
    number: 'K2026-0001',
    issued: '2026-11-10',
    due: '2026-12-10',
    note: 'Thank you',
    reference: 'PO 118',
    currency: 'EUR',
    from: party,
    to: { ...party, name: 'Żółw \u0007& Söhne' },
    bank: { iban: 'IE29SKER93115212345678', bic: 'SKERIE2D' },
    lines: lines.map((line, index) => ({
      name: 'Repair',
      description: '',
      quantity: line.quantity,
      unit: 'HUR',
      price: line.price,
      net: billed[index]!.net,
      category: line.rate === 0 ? 'Z' : 'S',
      rate: line.rate,
    })),
    taxes: totals,
    ...{ net, tax, gross: net + tax },
    prepaid: 0,
    of: null,
    ...more,
  };
}

const line = fc.record({
  quantity: fc.integer({ min: -5_000, max: 90_000 }),
  price: fc.integer({ min: 0, max: 500_000 }),
  discount: fc.constantFrom(0, 0, 500, 1250),
  rate: fc.constantFrom(0, 1350, 2300),
});

test('well-formed, and its totals follow from its lines by the rules of EN 16931', () => {
  fc.assert(
    fc.property(fc.array(line, { minLength: 1, maxLength: 30 }), (lines) => {
      const xml = read(writeUbl(documentOf(lines)));
      const all = (path: string) => (xml.get(path) ?? []).map(cents);
      const one = (path: string) => all(path)[0]!;
      const nets = all('InvoiceLine/LineExtensionAmount');
      const sum = (list: number[]) => list.reduce((a, b) => a + b, 0);
      // BR-CO-10, BR-CO-13, BR-CO-14, BR-CO-15, BR-CO-16
      expect(one('LegalMonetaryTotal/LineExtensionAmount')).toBe(sum(nets));
      expect(one('LegalMonetaryTotal/TaxExclusiveAmount')).toBe(sum(nets));
      expect(one('TaxTotal/TaxAmount')).toBe(sum(all('TaxTotal/TaxSubtotal/TaxAmount')));
      expect(one('LegalMonetaryTotal/TaxInclusiveAmount')).toBe(sum(nets) + one('TaxTotal/TaxAmount'));
      expect(one('LegalMonetaryTotal/PayableAmount')).toBe(one('LegalMonetaryTotal/TaxInclusiveAmount'));
      // BR-CO-17: the tax of a category is its base at its rate.
      const bases = all('TaxTotal/TaxSubtotal/TaxableAmount');
      const rates = (xml.get('TaxTotal/TaxSubtotal/TaxCategory/Percent') ?? []).map(Number);
      all('TaxTotal/TaxSubtotal/TaxAmount').forEach((tax, index) => {
        const exact = (bases[index]! * rates[index]!) / 100;
        expect(Math.abs(tax - exact)).toBeLessThanOrEqual(0.5);
      });
      // Each line: price times quantity less what is given off.
      const prices = all('InvoiceLine/Price/PriceAmount');
      (xml.get('InvoiceLine/InvoicedQuantity') ?? []).forEach((quantity, index) => {
        expect(Math.abs(Number(quantity) * prices[index]! - nets[index]!)).toBeLessThanOrEqual(
          Math.abs(Number(quantity) * prices[index]!) * 0.125 + 1,
        );
        expect(prices[index]).toBeGreaterThanOrEqual(0);
      });
    }),
  );
});

test('names with signs of markup and letters of any script come through; controls do not', () => {
  const xml = read(writeUbl(documentOf([{ quantity: 1000, price: 12000, discount: 0, rate: 2300 }])));
  expect(xml.get('AccountingSupplierParty/Party/PartyName/Name')).toEqual(['A & B <Sails>']);
  expect(xml.get('AccountingCustomerParty/Party/PartyName/Name')).toEqual(['Żółw & Söhne']);
  expect(xml.get('PaymentMeans/PayeeFinancialAccount/ID')).toEqual(['IE29SKER93115212345678']);
  expect(xml.get('DueDate')).toEqual(['2026-12-10']);
  expect(xml.get('LegalMonetaryTotal/PrepaidAmount')).toBeUndefined();
});

test('a credit note names the invoice it takes back; what was prepaid is not asked again', () => {
  const of = { number: 'K2026-0001', issued: '2026-11-01' };
  const note = read(
    writeUbl(documentOf([{ quantity: 1000, price: 12000, discount: 0, rate: 2300 }], { kind: 'credit-note', of })),
  );
  expect(note.get('CreditNoteTypeCode')).toEqual(['381']);
  expect(note.get('BillingReference/InvoiceDocumentReference/ID')).toEqual(['K2026-0001']);
  expect(note.get('CreditNoteLine/CreditedQuantity')).toEqual(['1.000']);
  const part = read(
    writeUbl(documentOf([{ quantity: 1000, price: 12000, discount: 0, rate: 2300 }], { prepaid: 4760 })),
  );
  expect(part.get('LegalMonetaryTotal/PayableAmount')).toEqual(['100.00']);
});
