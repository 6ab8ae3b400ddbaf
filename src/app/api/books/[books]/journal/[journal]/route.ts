import { NextResponse } from 'next/server';
import { postedJournal } from '@/books/ledger/entry-view';
import { openBooks } from '../../../../../server/books';

/** A posted journal with its lines. */
export async function GET(_request: Request, { params }: { params: Promise<{ books: string; journal: string }> }) {
  const { books, journal } = await params;
  const file = openBooks(books);
  const found = /^\d{1,15}$/.test(journal) ? await file.read((db) => postedJournal(db, Number(journal))) : null;
  return found === null
    ? NextResponse.json({ what: 'There is no such journal.' }, { status: 404 })
    : NextResponse.json(found);
}
