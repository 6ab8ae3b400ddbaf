'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { PostedJournal } from '@/books/ledger/entry-view';
import type { Posting } from '@/books/ledger/posting';
import type { TrailRef } from '@/books/trail/ref';
import { formatDate } from '@/core/calendar';
import { useBooks } from '../frame/books-context';
import { useToasts } from '../frame/toasts';
import { useKey } from '../keys/keys';
import type { ActionAnswer } from './action-answer';
import { AskFirst } from './ask-first';
import { EntryPreview, EntryTable } from './entry';
import { Notice } from './notice';

interface PostOneProps {
  readonly id: number;
  readonly of: TrailRef;
  readonly preview: ActionAnswer<Posting>;
  readonly post: (books: string, id: number) => Promise<ActionAnswer<Posting>>;
}

/** The entry that a document will write, beside it, and the button that writes it. */
export function PostOne({ id, of, preview, post }: PostOneProps) {
  const books = useBooks();
  const toasts = useToasts();
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const run = async () => {
    if (busy || !preview.ok) return;
    setBusy(true);
    const answer = await post(books.id, id);
    setBusy(false);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  useKey('p', 'post what is open beside the list', () => void run());
  if (!preview.ok) {
    return (
      <section>
        <Notice kind="refused">
          {preview.what} {preview.next}
        </Notice>
      </section>
    );
  }
  return (
    <>
      {preview.value.entry ? <EntryPreview entry={preview.value.entry} title="Entry it will write" of={of} /> : null}
      <div className="acts">
        <Button variant="primary" disabled={busy} onClick={() => void run()}>
          Post<span className="key">p</span>
        </Button>
      </div>
    </>
  );
}

interface PostedProps {
  readonly of: TrailRef;
  readonly journal: PostedJournal;
  readonly previewReverse: (books: string, journal: number) => Promise<ActionAnswer<Posting>>;
  /** Null where its entry is not taken back by itself. */
  readonly reverse: ((books: string, journal: number) => Promise<ActionAnswer<Posting>>) | null;
}

/** The entry that a document wrote, and its reversal, with the consequence shown first. */
export function Posted({ of, journal, previewReverse, reverse }: PostedProps) {
  const { id } = useBooks();
  const toasts = useToasts();
  const router = useRouter();
  const [shown, setShown] = useState<ActionAnswer<Posting> | null>(null);
  const ask = async () => setShown(await previewReverse(id, journal.id));
  const run = async () => {
    if (reverse === null) return;
    const answer = await reverse(id, journal.id);
    setShown(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  useKey('x', 'reverse what is open beside the list', () => void (reverse && ask()));
  return (
    <>
      <section aria-label="Entry it wrote">
        <h2>
          Journal {journal.id}{' '}
          <span className="small soft fw-normal">
            {formatDate(journal.date)}, posted by {journal.actor}
          </span>
        </h2>
        <EntryTable lines={journal.lines} of={of} />
      </section>
      {reverse ? (
        <div className="acts">
          <Button variant="plain" onClick={() => void ask()}>
            Reverse…<span className="key">x</span>
          </Button>
        </div>
      ) : null}
      <AskFirst
        id="reverse-title"
        title={`Reverse journal ${journal.id}`}
        shown={shown}
        act="Reverse"
        onLeave={() => setShown(null)}
        onAct={() => void run()}
      >
        {({ entry }) =>
          entry ? (
            <>
              <p>The opposite entry is written; nothing is taken out. Afterwards it can be posted again.</p>
              <EntryPreview entry={entry} title="Opposite entry" of={null} />
            </>
          ) : null
        }
      </AskFirst>
    </>
  );
}
