import { type NextRequest, NextResponse } from 'next/server';
import { z } from 'zod';
import type { Task } from '@/workers/task';
import { ACTOR, blobStore, jobs, openBooks } from '../../../../server/books';

const jobRequest = z.discriminatedUnion('kind', [
  z.object({
    kind: z.literal('import'),
    what: z.enum(['invoices', 'receipts', 'statement']),
    name: z.string().min(1).max(255),
    sha256: z.string(),
    dryRun: z.boolean(),
  }),
  z.object({
    kind: z.literal('post'),
    what: z.enum(['receipts', 'invoices']),
    input: z.unknown(),
    dryRun: z.boolean(),
  }),
  z.object({ kind: z.enum(['confirm-proven', 'try-rule', 'repost']), input: z.unknown() }),
  z.object({ kind: z.enum(['map-layers', 'post-again-list']) }),
]);

/** Starts long work and answers with the id to watch it by. */
export async function POST(request: NextRequest, { params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const file = openBooks(books);
  const parsed = jobRequest.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return NextResponse.json({ what: 'No such job.' }, { status: 400 });
  let task: Task;
  if (parsed.data.kind === 'import') {
    const { what, name, sha256, dryRun } = parsed.data;
    const stored = await blobStore(books).find(sha256);
    if (!stored) {
      const gone = { what: 'The file is not here any more.', next: 'Choose it again.' };
      return NextResponse.json(gone, { status: 404 });
    }
    task = { kind: 'import', what, file: { name, ...stored }, dryRun };
  } else {
    task = parsed.data;
  }
  return NextResponse.json({ job: jobs.start(books, file.path, ACTOR, task) });
}
