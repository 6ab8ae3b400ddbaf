import 'server-only';
import { takeDue } from '@/books/fetching/due';
import type { BeganBy } from '@/books/store';
import type { Task } from '@/workers/task';
import { ACTOR, blobFolder, jobs, listBooks, openBooks } from './books';

/** Where this server answers to itself: its stand-ins, and the events they send. */
export const origin = () => process.env.NEST_EGG_ORIGIN ?? `http://127.0.0.1:${process.env.PORT ?? '4310'}`;

const SCHEDULER = { name: 'schedule' };
const CHANNEL = { name: 'channel' };

/** What fetches one connection, as a job. */
export function fetchTask(books: string, connection: number, beganBy: BeganBy): Task {
  return { kind: 'fetch', connection, beganBy, origin: origin(), blobs: blobFolder(books) };
}

/** Runs that are going on by themselves, and whether another has to follow them. */
const RUNNING = Symbol.for('nest-egg.fetching');
const running = ((globalThis as { [RUNNING]?: Map<string, boolean> })[RUNNING] ??= new Map<string, boolean>());

/** Fetches a connection by itself. While a run of it goes on, however many ask, one more follows. */
export async function fetchByItself(books: string, connection: number, beganBy: BeganBy): Promise<void> {
  const key = `${books} ${connection}`;
  if (running.has(key)) {
    running.set(key, true);
    return;
  }
  running.set(key, false);
  const actor = beganBy === 'schedule' ? SCHEDULER : beganBy === 'event' ? CHANNEL : ACTOR;
  try {
    do {
      running.set(key, false);
      await jobs.finish(jobs.start(books, openBooks(books).path, actor, fetchTask(books, connection, beganBy)));
    } while (running.get(key));
  } finally {
    running.delete(key);
  }
}

/** Fetches what is due in one set of books. */
export async function fetchDue(books: string): Promise<number> {
  const due = await takeDue(openBooks(books), new Date());
  for (const connection of due) await fetchByItself(books, connection, 'schedule');
  return due.length;
}

/** Fetches what is due in all books of this server: asked every minute. */
export async function fetchAllDue(): Promise<void> {
  for (const books of listBooks()) {
    await fetchDue(books).catch((error: unknown) => console.error('schedule failed', books, error));
  }
}
