import type { NextRequest } from 'next/server';
import { plainDateInput } from '@/books/command/plain-date-input';
import { printedAccount } from '@/books/payers/account-pdf';
import { openBooks } from '../../../../../../server/books';
import { fileResponse } from '../../../../../../server/file-response';
import { idParam } from '../../../../../../server/params';

/** A payer's statement of account as PDF. */
export async function GET(request: NextRequest, { params }: { params: Promise<{ books: string; payer: string }> }) {
  const { books, payer } = await params;
  const id = idParam(payer);
  const [from, to] = ['from', 'to'].map((name) => plainDateInput.safeParse(request.nextUrl.searchParams.get(name)));
  if (id === null || !from?.success || !to?.success) return new Response(null, { status: 400 });
  const file = await openBooks(books).read((db) => printedAccount(db, id, from.data, to.data));
  return file ? fileResponse(file.name, 'application/pdf', file.bytes) : new Response(null, { status: 404 });
}
