/**
 * Invoices and credit notes as UBL 2.1 (OASIS), core of EN 16931: what a receiver's program reads. Amounts are whole minor
 * units of a currency with two decimals, rates are basis points, quantities thousandths.
 */
export interface UblParty {
  readonly name: string;
  readonly address: string;
  readonly country: string;
  readonly taxNumber: string;
  readonly email: string;
}

export interface UblLine {
  readonly name: string;
  readonly description: string;
  readonly quantity: number;
  readonly unit: string;
  readonly price: number;
  readonly net: number;
  readonly category: string;
  readonly rate: number;
}

export interface UblDocument {
  readonly kind: 'invoice' | 'credit-note';
  readonly number: string;
  readonly issued: string;
  readonly due: string | null;
  readonly note: string;
  readonly reference: string;
  readonly currency: string;
  readonly from: UblParty;
  readonly to: UblParty;
  readonly bank: { readonly iban: string; readonly bic: string } | null;
  readonly lines: readonly UblLine[];
  readonly taxes: readonly {
    readonly category: string;
    readonly rate: number;
    readonly net: number;
    readonly tax: number;
  }[];
  readonly net: number;
  readonly tax: number;
  readonly gross: number;
  readonly prepaid: number;
  /** The invoice that a credit note takes back. */
  readonly of: { readonly number: string; readonly issued: string } | null;
}

const ESCAPED: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
// XML 1.0 has no way to write other controls.
// eslint-disable-next-line no-control-regex
const UNWRITABLE = /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g;
const text = (value: string) => value.replace(UNWRITABLE, '').replace(/[&<>"]/g, (c) => ESCAPED[c]!);

function decimal(value: number, decimals: number): string {
  const digits = String(Math.abs(value)).padStart(decimals + 1, '0');
  return `${value < 0 ? '-' : ''}${digits.slice(0, -decimals)}.${digits.slice(-decimals)}`;
}

const percent = (rate: number) => decimal(rate, 2);
const tag = (name: string, value: string, attributes = '') => `<${name}${attributes}>${text(value)}</${name}>`;
const some = (name: string, value: string) => (value === '' ? '' : tag(name, value));

function party(role: string, { name, address, country, taxNumber, email }: UblParty, exempt: boolean): string {
  const [street = '', ...rest] = address.split('\n').filter(Boolean);
  const scheme = '<cac:TaxScheme><cbc:ID>VAT</cbc:ID></cac:TaxScheme>';
  return (
    `<cac:${role}><cac:Party>` +
    `<cac:PartyName>${tag('cbc:Name', name)}</cac:PartyName>` +
    `<cac:PostalAddress>${some('cbc:StreetName', street)}${some('cbc:AdditionalStreetName', rest.slice(0, -1).join(', '))}${some('cbc:CityName', rest.at(-1) ?? '')}` +
    `<cac:Country>${tag('cbc:IdentificationCode', country)}</cac:Country></cac:PostalAddress>` +
    (taxNumber && !exempt
      ? `<cac:PartyTaxScheme>${tag('cbc:CompanyID', taxNumber)}${scheme}</cac:PartyTaxScheme>`
      : '') +
    `<cac:PartyLegalEntity>${tag('cbc:RegistrationName', name)}</cac:PartyLegalEntity>` +
    (email ? `<cac:Contact>${tag('cbc:ElectronicMail', email)}</cac:Contact>` : '') +
    `</cac:Party></cac:${role}>`
  );
}

function category(name: string, code: string, rate: number): string {
  const reason =
    code === 'E'
      ? tag('cbc:TaxExemptionReason', 'Exempt')
      : code === 'O'
        ? tag('cbc:TaxExemptionReason', 'Not subject to VAT')
        : '';
  const share = code === 'O' ? '' : tag('cbc:Percent', percent(rate));
  return `<cac:${name}>${tag('cbc:ID', code)}${share}${name === 'TaxCategory' ? reason : ''}<cac:TaxScheme><cbc:ID>VAT</cbc:ID></cac:TaxScheme></cac:${name}>`;
}

/** Writes the document. Lines are priced per unit before discount; what a line comes to is its net. */
export function writeUbl(document: UblDocument): string {
  const credit = document.kind === 'credit-note';
  const root = credit ? 'CreditNote' : 'Invoice';
  const money = (name: string, amount: number) => tag(name, decimal(amount, 2), ` currencyID="${document.currency}"`);
  const line = (one: UblLine, index: number): string => {
    const name = credit ? 'CreditNoteLine' : 'InvoiceLine';
    const quantity = credit ? 'CreditedQuantity' : 'InvoicedQuantity';
    // A price must not be below zero: then the quantity is.
    const sign = one.price < 0 ? -1 : 1;
    // Price times quantity is rounded half away from zero, as the line is; what it is more than the net was given off.
    const product = BigInt(one.quantity) * BigInt(one.price);
    const size = product < 0n ? -product : product;
    const full = Number((size + 500n) / 1000n) * (product < 0n ? -1 : 1);
    const off = full - one.net;
    const allowance =
      off === 0
        ? ''
        : `<cac:AllowanceCharge>${tag('cbc:ChargeIndicator', String(off < 0))}${tag('cbc:AllowanceChargeReason', 'Discount')}${money('cbc:Amount', Math.abs(off))}${money('cbc:BaseAmount', full)}</cac:AllowanceCharge>`;
    return (
      `<cac:${name}>${tag('cbc:ID', String(index + 1))}` +
      tag(`cbc:${quantity}`, decimal(one.quantity * sign, 3), ` unitCode="${text(one.unit)}"`) +
      money('cbc:LineExtensionAmount', one.net) +
      allowance +
      `<cac:Item>${some('cbc:Description', one.description)}${tag('cbc:Name', one.name)}${category('ClassifiedTaxCategory', one.category, one.rate)}</cac:Item>` +
      `<cac:Price>${money('cbc:PriceAmount', one.price * sign)}</cac:Price></cac:${name}>`
    );
  };
  const exempt = document.taxes.every((tax) => tax.category === 'O');
  return (
    '<?xml version="1.0" encoding="UTF-8"?>\n' +
    `<${root} xmlns="urn:oasis:names:specification:ubl:schema:xsd:${root}-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">` +
    tag('cbc:CustomizationID', 'urn:cen.eu:en16931:2017') +
    tag('cbc:ID', document.number) +
    tag('cbc:IssueDate', document.issued) +
    (document.due !== null && !credit ? tag('cbc:DueDate', document.due) : '') +
    (credit ? tag('cbc:CreditNoteTypeCode', '381') : tag('cbc:InvoiceTypeCode', '380')) +
    some('cbc:Note', document.note) +
    tag('cbc:DocumentCurrencyCode', document.currency) +
    some('cbc:BuyerReference', document.reference) +
    (document.of
      ? `<cac:BillingReference><cac:InvoiceDocumentReference>${tag('cbc:ID', document.of.number)}${tag('cbc:IssueDate', document.of.issued)}</cac:InvoiceDocumentReference></cac:BillingReference>`
      : '') +
    party('AccountingSupplierParty', document.from, exempt) +
    party('AccountingCustomerParty', document.to, exempt) +
    (document.bank
      ? `<cac:PaymentMeans>${tag('cbc:PaymentMeansCode', '58')}${tag('cbc:PaymentID', document.number)}<cac:PayeeFinancialAccount>${tag('cbc:ID', document.bank.iban)}${document.bank.bic ? `<cac:FinancialInstitutionBranch>${tag('cbc:ID', document.bank.bic)}</cac:FinancialInstitutionBranch>` : ''}</cac:PayeeFinancialAccount></cac:PaymentMeans>`
      : '') +
    `<cac:TaxTotal>${money('cbc:TaxAmount', document.tax)}${document.taxes
      .map(
        (tax) =>
          `<cac:TaxSubtotal>${money('cbc:TaxableAmount', tax.net)}${money('cbc:TaxAmount', tax.tax)}${category('TaxCategory', tax.category, tax.rate)}</cac:TaxSubtotal>`,
      )
      .join('')}</cac:TaxTotal>` +
    `<cac:LegalMonetaryTotal>${money('cbc:LineExtensionAmount', document.net)}${money('cbc:TaxExclusiveAmount', document.net)}${money('cbc:TaxInclusiveAmount', document.gross)}${document.prepaid === 0 ? '' : money('cbc:PrepaidAmount', document.prepaid)}${money('cbc:PayableAmount', document.gross - document.prepaid)}</cac:LegalMonetaryTotal>` +
    document.lines.map(line).join('') +
    `</${root}>\n`
  );
}
