import type { NextRequest } from 'next/server';
import { attach, ATTACHMENT_BYTES, mediaTypeOf } from '@/books/billing/attachments';
import { refusalWords, runCommand } from '@/books/command';
import { ACTOR, blobStore, openBooks } from '../../../../../../server/books';
import { answer } from '../../../../../../server/answer';
import { fileResponse } from '../../../../../../server/file-response';
import { idParam } from '../../../../../../server/params';

interface Context {
  readonly params: Promise<{ books: string; subject: string; id: string }>;
}

/** Attaches a file to a document: it must be what its name says. */
export async function POST(request: NextRequest, { params }: Context) {
  const { books, subject, id } = await params;
  const name = decodeURIComponent(request.headers.get('x-file-name') ?? '');
  // What says that it is too large is not read at all.
  const said = Number(request.headers.get('content-length') ?? '0');
  const bytes = said > ATTACHMENT_BYTES ? null : new Uint8Array(await request.arrayBuffer());
  if (bytes === null || bytes.length > ATTACHMENT_BYTES) {
    return Response.json({ ok: false, what: `${name} is larger than 10 MB.`, next: 'Attach a smaller file.' });
  }
  const kind = await mediaTypeOf(name, bytes);
  if ('found' in kind) {
    return Response.json({ ok: false, ...refusalWords({ code: 'attachment-unlike', name, found: kind.found }) });
  }
  const stored = await blobStore(books).put(
    (async function* () {
      yield bytes;
    })(),
    ATTACHMENT_BYTES,
  );
  const input = { subject, id: Number(id), name, type: kind.type, sha256: stored.sha256, bytes: stored.bytes };
  return Response.json(answer(await runCommand(openBooks(books), attach, input, { actor: ACTOR })));
}

/** The bytes of an attachment, to be saved: never shown as a page. */
export async function GET(_request: NextRequest, { params }: Context) {
  const { books, id: text } = await params;
  const id = idParam(text);
  const row =
    id === null
      ? undefined
      : await openBooks(books).reader.selectFrom('attachment').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) return new Response(null, { status: 404 });
  const pieces: Uint8Array[] = [];
  for await (const piece of blobStore(books).bytes(row.sha256)) pieces.push(piece);
  return fileResponse(row.name, row.media_type, Buffer.concat(pieces));
}
