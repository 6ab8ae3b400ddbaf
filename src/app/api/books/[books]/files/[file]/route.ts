import { createReadStream } from 'node:fs';
import { Readable } from 'node:stream';
import type { NextRequest } from 'next/server';
import { blobStore, openBooks } from '../../../../../server/books';

interface Context {
  readonly params: Promise<{ books: string; file: string }>;
}

/** A file kept with these books, by the hash of its bytes, to be saved under the name that is asked for. */
export async function GET(request: NextRequest, { params }: Context) {
  const { books, file } = await params;
  openBooks(books);
  const stored = await blobStore(books).find(file);
  if (!stored) return new Response('There is no such file.', { status: 404 });
  const name = request.nextUrl.searchParams.get('name') ?? file;
  const body = Readable.toWeb(createReadStream(stored.path)) as ReadableStream<Uint8Array>;
  return new Response(body, {
    headers: {
      'content-type': 'application/octet-stream',
      'content-length': String(stored.bytes),
      'content-disposition': `attachment; filename*=UTF-8''${encodeURIComponent(name)}`,
      'x-content-type-options': 'nosniff',
    },
  });
}
