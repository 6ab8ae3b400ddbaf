import type { NextRequest } from 'next/server';
import { printedYear } from '@/books/by-hand/thank';
import { openBooks } from '../../../../../../server/books';
import { fileResponse } from '../../../../../../server/file-response';
import { idParam } from '../../../../../../server/params';

/** A donor's gifts of a year as PDF. */
export async function GET(request: NextRequest, { params }: { params: Promise<{ books: string; payer: string }> }) {
  const { books, payer } = await params;
  const [id, year] = [idParam(payer), idParam(request.nextUrl.searchParams.get('year') ?? undefined)];
  if (id === null || year === null || year < 1900 || year > 2200) return new Response(null, { status: 400 });
  const file = await openBooks(books).read((db) => printedYear(db, id, year));
  return file ? fileResponse(file.name, 'application/pdf', file.bytes) : new Response(null, { status: 404 });
}
