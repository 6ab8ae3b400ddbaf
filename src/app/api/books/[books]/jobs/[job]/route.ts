import { revalidatePath } from 'next/cache';
import { NextResponse } from 'next/server';
import { answer } from '../../../../../server/answer';
import { jobs, openBooks } from '../../../../../server/books';

interface Context {
  readonly params: Promise<{ books: string; job: string }>;
}

const GONE = {
  state: 'done',
  answer: {
    ok: false,
    code: 'not-found',
    what: 'That job is not known any more.',
    next: 'Load the page again to see what it did.',
  },
};

/** How far a job is, or its answer. */
export async function GET(_request: Request, { params }: Context) {
  const { books, job } = await params;
  openBooks(books);
  const seen = jobs.look(books, job);
  if (seen === null) return NextResponse.json(GONE, { status: 404 });
  if (seen.state === 'running') return NextResponse.json(seen);
  if (seen.state === 'failed') {
    const failed = {
      ok: false,
      code: 'cancelled',
      what: 'The job ended with an error of the program; the books are as they were before.',
      next: 'Try again; if it happens again, keep the file and report it.',
    };
    return NextResponse.json({ state: 'done', answer: failed });
  }
  if (seen.result.ok) revalidatePath(`/books/${books}`, 'layout');
  return NextResponse.json({ state: 'done', answer: answer(seen.result) });
}

/** Asks a job to stop. */
export async function DELETE(_request: Request, { params }: Context) {
  const { books, job } = await params;
  openBooks(books);
  return NextResponse.json({ asked: jobs.cancel(books, job) });
}
