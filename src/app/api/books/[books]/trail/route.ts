import { type NextRequest, NextResponse } from 'next/server';
import { trailRef } from '@/books/trail/ref';
import { trail } from '@/books/trail/trail';
import { openBooks } from '../../../../server/books';

/** The trail of ?of=receipt:12. */
export async function GET(request: NextRequest, { params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const file = openBooks(books);
  const ref = trailRef.safeParse(request.nextUrl.searchParams.get('of'));
  const found = ref.success ? await file.read((db) => trail(db, ref.data.kind, ref.data.id)) : null;
  return found === null
    ? NextResponse.json({ what: 'There is nothing to follow here.' }, { status: 404 })
    : NextResponse.json(found);
}
