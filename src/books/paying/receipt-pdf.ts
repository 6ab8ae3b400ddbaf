import { printPdf, printed, type TDocumentDefinitions } from '@/adapters/pdf';
import { formatDate } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { letterhead, type DocumentPayer, type Letterhead } from '../billing/document';
import { headOf, partiesOf } from '../billing/invoice-pdf';
import type { Reading } from '../store';

export interface ReceiptFacts {
  readonly name: string;
  readonly date: Parameters<typeof formatDate>[0];
  readonly amount: Parameters<typeof formatAmount>[0];
  readonly currency: string;
  readonly channel: string;
  /** What it is for: a document's number, a fund, a note. */
  readonly about: string;
}

export function receiptPage(from: Letterhead, to: DocumentPayer | null, receipt: ReceiptFacts): TDocumentDefinitions {
  const nobody = { name: '', address: '', email: '', country: '', taxNumber: '' };
  return {
    info: { title: `Receipt ${receipt.name}`, author: from.name },
    content: [
      headOf(from, 'Receipt'),
      partiesOf(to ?? nobody, [
        ['Number', receipt.name],
        ['Received', formatDate(receipt.date)],
        ['By', receipt.channel],
      ]),
      { text: `${formatAmount(receipt.amount, receipt.currency)} ${receipt.currency}`, fontSize: 18, bold: true },
      ...(receipt.about
        ? [{ text: printed(`for ${receipt.about}`), margin: [0, 4, 0, 0] as [number, number, number, number] }]
        : []),
      { text: 'Received with thanks.', margin: [0, 16, 0, 0] },
    ],
  };
}

/** A receipt as PDF; null where there is none, or it names another invoice than the one asked for. */
export async function printedReceipt(
  db: Reading,
  receipt: number,
  invoice: number | null,
): Promise<{ name: string; bytes: Uint8Array } | null> {
  const row = await db
    .selectFrom('receipt')
    .innerJoin('channel', 'channel.id', 'receipt.channel_id')
    .leftJoin('payer', 'payer.id', 'receipt.payer_id')
    .select([
      'external_id',
      'book_date',
      'gross',
      'receipt.currency',
      'channel.name as channel',
      'document',
      'receipt.note',
      'fund',
      'invoice_id',
    ])
    .select(['payer.name', 'payer.email', 'payer.address', 'payer.country', 'payer.tax_number'])
    .where('receipt.id', '=', receipt)
    .executeTakeFirst();
  if (!row || (invoice !== null && row.invoice_id !== invoice)) return null;
  const to =
    row.name === null
      ? null
      : { name: row.name, email: row.email!, address: row.address!, country: row.country!, taxNumber: row.tax_number! };
  const about = row.document ? `invoice ${row.document}` : row.fund || row.note;
  const page = receiptPage(await letterhead(db), to, {
    name: row.external_id,
    date: row.book_date,
    amount: row.gross,
    currency: row.currency,
    channel: row.channel,
    about,
  });
  return { name: `receipt-${row.external_id}.pdf`, bytes: await printPdf(page) };
}
