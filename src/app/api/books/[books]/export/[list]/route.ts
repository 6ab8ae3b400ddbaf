import type { NextRequest } from 'next/server';
import { exportCsv } from '@/books/lists/export';
import { todayOf } from '@/books/setup/today';
import { blobStore, openBooks } from '../../../../../server/books';

interface Context {
  readonly params: Promise<{ books: string; list: string }>;
}

/** What a list shows, as a CSV file. */
export async function GET(request: NextRequest, { params }: Context) {
  const { books: id, list } = await params;
  const books = openBooks(id);
  const row = await books.reader.selectFrom('books').selectAll().executeTakeFirstOrThrow();
  const lines = exportCsv(list, {
    books,
    currency: row.currency,
    today: todayOf(row, new Date()),
    search: Object.fromEntries(request.nextUrl.searchParams),
    fileBytes: (sha256) => blobStore(id).bytes(sha256),
  });
  if (lines === null) return new Response('There is no such list.', { status: 404 });
  const encoder = new TextEncoder();
  const body = new ReadableStream<Uint8Array>({
    async pull(controller) {
      const { value, done } = await lines.next();
      if (done) controller.close();
      else controller.enqueue(encoder.encode(value));
    },
    async cancel() {
      await lines.return(undefined);
    },
  });
  return new Response(body, {
    headers: {
      'content-type': 'text/csv; charset=utf-8',
      'content-disposition': `attachment; filename="${id}-${list}.csv"`,
    },
  });
}
