import { printed, printPdf, type Content, type TDocumentDefinitions } from '@/adapters/pdf';
import { formatDate } from '@/core/calendar';
import { formatAmount, formatPercent, formatUnits, subtract, ZERO, type Currency, type Minor } from '@/core/money';
import type {
  CreditNoteDocument,
  DocumentLine,
  DocumentPayer,
  InvoiceDocument,
  Letterhead,
  TaxTotal,
} from './document';

const SOFT = '#655A6B';

const lines = (text: string): Content[] =>
  text
    .split('\n')
    .filter(Boolean)
    .map((line) => ({ text: printed(line) }));

/** Who it is from, as the head of a document. */
export function headOf(from: Letterhead, title: string): Content {
  return {
    columns: [
      [
        { text: printed(from.name), bold: true, fontSize: 13 },
        ...lines(from.address),
        ...(from.taxNumber ? [{ text: `Tax number ${from.taxNumber}`, color: SOFT }] : []),
      ],
      { text: title, alignment: 'right', fontSize: 16, bold: true },
    ],
    margin: [0, 0, 0, 26],
  };
}

export function partiesOf(to: DocumentPayer, facts: readonly (readonly [string, string])[]): Content {
  return {
    columns: [
      [
        { text: printed(to.name), bold: true },
        ...lines(to.address),
        ...(to.taxNumber ? [{ text: `Tax number ${to.taxNumber}`, color: SOFT }] : []),
      ],
      {
        width: 210,
        table: {
          widths: ['*', 'auto'],
          body: facts.map(([name, value]) => [
            { text: name, color: SOFT },
            { text: printed(value), alignment: 'right' as const },
          ]),
        },
        layout: 'noBorders',
      },
    ],
    margin: [0, 0, 0, 22],
  };
}

export const RULES = {
  hLineWidth: (row: number, node: { table: { body: unknown[] } }) =>
    row === 0 || row === node.table.body.length ? 0 : 0.5,
  vLineWidth: () => 0,
  hLineColor: () => '#DDD3C2',
  paddingTop: () => 4,
  paddingBottom: () => 4,
};

export const right = (text: string, bold = false): Content => ({ text, alignment: 'right', bold });
export const head = (text: string, alignment: 'left' | 'right' = 'left'): Content => ({
  text,
  alignment,
  color: SOFT,
  fontSize: 8.5,
});

function linesTable(list: readonly DocumentLine[], currency: Currency): Content {
  const body = list.map((line) => [
    {
      stack: [
        { text: printed(line.description || line.itemName) },
        ...(line.discount > 0 ? [{ text: `${formatPercent(line.discount)} off`, color: SOFT, fontSize: 8.5 }] : []),
      ],
    },
    right(formatUnits(line.quantity)),
    right(formatAmount(line.price, currency)),
    right(formatPercent(line.rate)),
    right(formatAmount(line.net, currency)),
  ]);
  return {
    table: {
      headerRows: 1,
      dontBreakRows: true,
      widths: ['*', 'auto', 'auto', 'auto', 75],
      body: [
        [head('For'), head('Quantity', 'right'), head('Price', 'right'), head('Tax', 'right'), head('Net', 'right')],
        ...body,
      ],
    },
    layout: RULES,
  };
}

function totalsTable(
  { net, taxes, gross }: { net: Minor; taxes: readonly TaxTotal[]; gross: Minor },
  currency: Currency,
  more: readonly (readonly [string, Minor])[],
): Content {
  const money = (amount: Minor) => formatAmount(amount, currency);
  const row = (name: string, amount: Minor, bold = false) => [{ text: name, bold }, right(money(amount), bold)];
  return {
    columns: [
      { text: '' },
      {
        width: 250,
        table: {
          widths: ['*', 'auto'],
          body: [
            row('Net', net),
            ...taxes.map(({ rate, net: base, tax }) => row(`Tax ${formatPercent(rate)} on ${money(base)}`, tax)),
            row('Total', gross, true),
            ...more.map(([name, amount]) => row(name, amount, name.startsWith('To pay'))),
          ],
        },
        layout: RULES,
      },
    ],
    margin: [0, 14, 0, 18],
  };
}

function howToPay(invoice: InvoiceDocument, link: string | null, qr: string | null): Content[] {
  const { from, number, early } = invoice;
  const { bank, currency } = from;
  if (invoice.gross <= invoice.paid) return [];
  const text: Content[] = [
    ...(early
      ? [
          {
            text: `Paid by ${formatDate(early.until)}, ${formatAmount(early.discount, currency)} may be taken off: ${formatAmount(subtract(subtract(invoice.gross, invoice.paid), early.discount), currency)} then settles it.`,
          },
        ]
      : []),
    ...(bank
      ? [
          {
            text: `By bank transfer: ${from.name}, ${bank.iban}${bank.bic ? `, ${bank.bic}` : ''}, reference ${number}`,
          },
        ]
      : []),
    ...(link ? [{ text: ['Online: ', { text: link, link, color: '#5B2B56' }] }] : []),
  ];
  if (text.length === 0) return [];
  return [
    {
      columns: [
        [{ text: 'How to pay', bold: true, margin: [0, 0, 0, 3] }, ...text],
        ...(qr ? [{ width: 90, stack: [{ qr, fit: 80, eccLevel: 'M' as const }] }] : []),
      ],
      columnGap: 18,
      unbreakable: true,
    },
  ];
}

/** An invoice as it is printed; the link and the text of the bank's code are put on it where they are given. */
export function invoicePage(invoice: InvoiceDocument, link: string | null, qr: string | null): TDocumentDefinitions {
  const { from, gross, paid, credited } = invoice;
  const settled = subtract(paid, credited > paid ? paid : credited);
  const more: [string, Minor][] = [];
  if (settled > ZERO) more.push(['Paid', (0 - settled) as Minor]);
  if (credited > ZERO) more.push(['Credited', (0 - credited) as Minor]);
  if (more.length > 0) more.push(['To pay', subtract(gross, paid)]);
  const facts: [string, string][] = [
    ['Number', invoice.number],
    ...(invoice.version > 1 ? [['Version', String(invoice.version)] as [string, string]] : []),
    ['Issued', formatDate(invoice.issued)],
    ['To be paid by', formatDate(invoice.due)],
    ...(invoice.reference ? [['Your reference', invoice.reference] as [string, string]] : []),
  ];
  return {
    info: { title: `Invoice ${invoice.number}`, author: from.name },
    content: [
      headOf(from, credited >= gross ? 'Invoice, void' : 'Invoice'),
      partiesOf(invoice.to, facts),
      linesTable(invoice.lines, from.currency),
      totalsTable(invoice, from.currency, more),
      ...lines(invoice.note),
      ...(invoice.note ? [{ text: ' ' }] : []),
      ...howToPay(invoice, link, qr),
    ],
    footer: (page, pages) => ({
      text: `${invoice.number} · ${page} of ${pages}`,
      alignment: 'center',
      color: SOFT,
      fontSize: 8,
    }),
  };
}

export function creditNotePage(note: CreditNoteDocument): TDocumentDefinitions {
  const facts: [string, string][] = [
    ['Number', note.number],
    ['Issued', formatDate(note.issued)],
    ['For invoice', `${note.invoice.number} of ${formatDate(note.invoice.issued)}`],
  ];
  return {
    info: { title: `Credit note ${note.number}`, author: note.from.name },
    content: [
      headOf(note.from, note.withdrawn ? 'Credit note, withdrawn' : 'Credit note'),
      partiesOf(note.to, facts),
      linesTable(note.lines, note.from.currency),
      totalsTable(note, note.from.currency, []),
      ...lines(note.why),
    ],
  };
}

export const invoicePdf = (invoice: InvoiceDocument, link: string | null, qr: string | null) =>
  printPdf(invoicePage(invoice, link, qr));
export const creditNotePdf = (note: CreditNoteDocument) => printPdf(creditNotePage(note));
