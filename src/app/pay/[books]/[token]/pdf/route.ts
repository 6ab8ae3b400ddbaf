import type { NextRequest } from 'next/server';
import { printedInvoice } from '@/books/billing/hand-out';
import { invoiceOfToken } from '@/books/paying/pay-page';
import { openBooks } from '../../../../server/books';
import { fileResponse } from '../../../../server/file-response';
import { origin } from '../../../../server/fetching';
import { tooOften } from '../../../../server/rate-limit';

/** The invoice of a link as PDF. */
export async function GET(_request: NextRequest, { params }: { params: Promise<{ books: string; token: string }> }) {
  const { books, token } = await params;
  if (await tooOften('look', token)) return new Response('This was asked for too often.', { status: 429 });
  const file = await openBooks(books).read(async (db) => {
    const invoice = await invoiceOfToken(db, token);
    return invoice === null ? null : printedInvoice(db, invoice, (of) => `${origin()}/pay/${books}/${of}`);
  });
  return file ? fileResponse(file.name, 'application/pdf', file.bytes) : new Response(null, { status: 404 });
}
