import 'server-only';
import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { notFound } from 'next/navigation';
import { BlobStore } from '@/adapters/blob-store';
import type { Actor } from '@/books/command';
import { BooksFile } from '@/books/store';
import { Jobs } from '@/workers/jobs';

const DATA = process.env.NEST_EGG_DATA ?? 'data';

/** Until people sign in, whoever reaches this server is its one bookkeeper. */
export const ACTOR: Actor = { name: process.env.NEST_EGG_ACTOR ?? 'M. Dunne' };

interface Shared {
  readonly open: Map<string, BooksFile>;
  readonly jobs: Jobs;
}

/** One per process: pages, actions and routes are bundled apart and would each have their own. */
const SHARED = Symbol.for('nest-egg.server');
const shared: Shared = ((globalThis as { [SHARED]?: Shared })[SHARED] ??= { open: new Map(), jobs: new Jobs() });

export const jobs = shared.jobs;

const booksPath = (id: string) => join(DATA, 'books', `${id}.sqlite`);

/** The books by the id in their address; a page that names none answers 404. */
export function openBooks(id: string): BooksFile {
  if (!/^[a-z0-9][a-z0-9-]{0,60}$/.test(id)) notFound();
  let books = shared.open.get(id);
  if (books === undefined) {
    if (!existsSync(booksPath(id))) notFound();
    shared.open.set(id, (books = new BooksFile(booksPath(id))));
  }
  return books;
}

/** Where the files of these books are kept. */
export const blobFolder = (id: string) => join(DATA, 'files', id);

export function blobStore(id: string): BlobStore {
  return new BlobStore(blobFolder(id));
}

/** Ids of all books on this server. */
export function listBooks(): string[] {
  const folder = join(DATA, 'books');
  if (!existsSync(folder)) return [];
  return readdirSync(folder)
    .filter((file) => file.endsWith('.sqlite'))
    .map((file) => file.slice(0, -'.sqlite'.length))
    .sort();
}
