import type { NextRequest } from 'next/server';
import { invoiceOfToken } from '@/books/paying/pay-page';
import { printedReceipt } from '@/books/paying/receipt-pdf';
import { openBooks } from '../../../../../server/books';
import { fileResponse } from '../../../../../server/file-response';
import { idParam } from '../../../../../server/params';
import { tooOften } from '../../../../../server/rate-limit';

interface Context {
  readonly params: Promise<{ books: string; token: string; receipt: string }>;
}

/** A receipt of the invoice of a link as PDF: only of that invoice. */
export async function GET(_request: NextRequest, { params }: Context) {
  const { books, token, receipt } = await params;
  if (await tooOften('look', token)) return new Response('This was asked for too often.', { status: 429 });
  const file = await openBooks(books).read(async (db) => {
    const invoice = await invoiceOfToken(db, token);
    const id = idParam(receipt);
    return invoice === null || id === null ? null : printedReceipt(db, id, invoice);
  });
  return file ? fileResponse(file.name, 'application/pdf', file.bytes) : new Response(null, { status: 404 });
}
