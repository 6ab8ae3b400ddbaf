'use client';

import { useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import type { Sheet } from '@/books/matching/sheet';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { takeLinesBackNow } from '../actions';
import { SheetHead } from './sheet-parts';

/** A line that was set aside: why, and the way back. */
export function AsideSheet({ line }: { line: Sheet['line'] }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const takeBack = async () => {
    const answer = await takeLinesBackNow(id, { ids: [line.id] });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/banked?line=${line.id}`);
    router.refresh();
  };
  return (
    <article className="panel" aria-label="Line set aside">
      <SheetHead line={line} />
      <section>
        <div>✕ Set aside: {line.aside}</div>
        <p className="soft small mb-0 mt-1">
          Nothing is to be explained of it. It stands in the proof of the bank as what it is.
        </p>
      </section>
      <div className="acts">
        <Button variant="plain" onClick={() => void takeBack()}>
          Take back
        </Button>
      </div>
    </article>
  );
}
