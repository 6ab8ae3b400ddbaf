import { type NextRequest, NextResponse } from 'next/server';
import { z } from 'zod';
import { receiptProfile } from '@/formats/receipts/profile';
import { statementProfile } from '@/formats/statements/profile';
import { DELIMITERS } from '@/formats/table/header';
import { ENCODINGS } from '@/formats/text';
import type { Task } from '@/workers/task';
import { fetchTask } from '../../../../server/fetching';
import { ACTOR, blobFolder, blobStore, jobs, openBooks } from '../../../../server/books';

/** A file that was sent before, and how it is to be read. */
const fileRequest = {
  what: z.enum(['invoices', 'receipts', 'statement']),
  name: z.string().min(1).max(255),
  sha256: z.string(),
  receipts: z
    .object({
      channel: z.number().int().optional(),
      profile: z.object({ fingerprint: z.string().max(20_000), settings: receiptProfile }).optional(),
    })
    .optional(),
  statements: z.object({ fingerprint: z.string().max(20_000), settings: statementProfile }).optional(),
};

const said = z.object({ delimiter: z.enum(DELIMITERS).optional(), encoding: z.enum(ENCODINGS).optional() }).default({});

const jobRequest = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('import'), ...fileRequest, dryRun: z.boolean() }),
  z.object({ kind: z.literal('refused-rows'), ...fileRequest }),
  z.object({
    kind: z.literal('look-at-file'),
    sha256: z.string(),
    channel: z.number().int().nullable(),
    said,
  }),
  z.object({ kind: z.literal('look-at-statement'), sha256: z.string(), said }),
  z.object({
    kind: z.literal('post'),
    what: z.enum(['receipts', 'invoices']),
    input: z.unknown(),
    dryRun: z.boolean(),
  }),
  z.object({ kind: z.literal('reverse-receipts'), input: z.unknown(), dryRun: z.boolean() }),
  z.object({
    kind: z.enum(['confirm-proven', 'confirm-probable', 'confirm-not-ours', 'try-rule', 'repost']),
    input: z.unknown(),
  }),
  z.object({ kind: z.literal('fetch'), connection: z.number().int() }),
  z.object({ kind: z.enum(['map-layers', 'post-again-list']) }),
]);

/** Starts long work and answers with the id to watch it by. */
export async function POST(request: NextRequest, { params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const file = openBooks(books);
  const parsed = jobRequest.safeParse(await request.json().catch(() => null));
  if (!parsed.success) return NextResponse.json({ what: 'No such job.' }, { status: 400 });
  const { data } = parsed;
  let task: Task;
  if ('sha256' in data) {
    const stored = await blobStore(books).find(data.sha256);
    if (!stored) {
      const gone = { what: 'The file is not here any more.', next: 'Choose it again.' };
      return NextResponse.json(gone, { status: 404 });
    }
    const { sha256: _hash, ...rest } = data;
    task =
      rest.kind === 'look-at-file' || rest.kind === 'look-at-statement'
        ? { ...rest, path: stored.path }
        : rest.kind === 'import'
          ? { ...rest, file: { name: rest.name, ...stored } }
          : { ...rest, file: { name: rest.name, ...stored }, blobs: blobFolder(books) };
  } else if (data.kind === 'fetch') {
    task = fetchTask(books, data.connection, 'hand');
  } else {
    task = data;
  }
  return NextResponse.json({ job: jobs.start(books, file.path, ACTOR, task) });
}
