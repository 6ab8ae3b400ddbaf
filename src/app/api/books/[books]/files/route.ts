import { type NextRequest, NextResponse } from 'next/server';
import { TooManyBytes } from '@/adapters/blob-store';
import { LIMITS } from '@/formats/finding';
import { blobStore, openBooks } from '../../../../server/books';
import { refusedAtTheGate } from '../../../../server/gate';

const TOO_LARGE = {
  what: `The file is larger than ${LIMITS.fileBytes / 1024 / 1024} MB.`,
  next: 'Export it in shorter periods and bring them in one after the other.',
};

async function* bytesOf(body: ReadableStream<Uint8Array>): AsyncGenerator<Uint8Array> {
  const reader = body.getReader();
  for (let read = await reader.read(); !read.done; read = await reader.read()) yield read.value;
}

/** Takes a file in as the plain body of the request, without holding it, and answers with its hash. */
export async function POST(request: NextRequest, { params }: { params: Promise<{ books: string }> }) {
  const refused = refusedAtTheGate(request);
  if (refused) return refused;
  const { books } = await params;
  openBooks(books);
  if (Number(request.headers.get('content-length') ?? 0) > LIMITS.fileBytes) {
    return NextResponse.json(TOO_LARGE, { status: 413 });
  }
  if (request.body === null) {
    return NextResponse.json({ what: 'The file is empty.', next: 'Choose another file.' }, { status: 422 });
  }
  try {
    const { sha256, bytes } = await blobStore(books).put(bytesOf(request.body), LIMITS.fileBytes);
    return NextResponse.json({ sha256, bytes });
  } catch (error) {
    if (error instanceof TooManyBytes) return NextResponse.json(TOO_LARGE, { status: 413 });
    throw error;
  }
}
