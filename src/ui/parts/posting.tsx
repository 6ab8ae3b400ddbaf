'use client';

import { plural } from '@/core/words';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import type { PostedJournal } from '@/books/ledger/entry-view';
import type { Posting } from '@/books/ledger/posting';
import type { TrailRef } from '@/books/trail/ref';
import { formatDate } from '@/core/calendar';
import { useBooks, useMoney } from '../frame/books-context';
import { useToasts, type ChangeTold } from '../frame/toasts';
import { useKey } from '../keys/keys';
import { BalanceMoves, EntryPreview, EntryTable } from './entry';
import { JobProgress, useJob } from './job';
import { Notice } from './notice';
import { usePicks } from './picks';

export type ActionAnswer<T> =
  | { readonly ok: true; readonly value: T; readonly change: ChangeTold | null }
  | { readonly ok: false; readonly what: string; readonly next: string };

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
  readonly reverse: (books: string, journal: number) => Promise<ActionAnswer<Posting>>;
}

/** The entry that a document wrote, and its reversal, with the consequence shown first. */
export function Posted({ of, journal, previewReverse, reverse }: PostedProps) {
  const { id } = useBooks();
  const toasts = useToasts();
  const router = useRouter();
  const [shown, setShown] = useState<ActionAnswer<Posting> | null>(null);
  const ask = async () => setShown(await previewReverse(id, journal.id));
  const run = async () => {
    const answer = await reverse(id, journal.id);
    setShown(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  useKey('x', 'reverse what is open beside the list', () => void ask());
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
      <div className="acts">
        <Button variant="plain" onClick={() => void ask()}>
          Reverse…<span className="key">x</span>
        </Button>
      </div>
      <Modal show={shown !== null} onHide={() => setShown(null)} aria-labelledby="reverse-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="reverse-title">
            Reverse journal {journal.id}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {shown?.ok === false ? (
            <Notice kind="refused">
              {shown.what} {shown.next}
            </Notice>
          ) : null}
          {shown?.ok && shown.value.entry ? (
            <>
              <p>The opposite entry is written; nothing is taken out. Afterwards it can be posted again.</p>
              <EntryPreview entry={shown.value.entry} title="Opposite entry" of={null} />
            </>
          ) : null}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={() => setShown(null)}>
            Leave it
          </Button>
          {shown?.ok ? (
            <Button variant="primary" onClick={() => void run()} autoFocus>
              Reverse
            </Button>
          ) : null}
        </Modal.Footer>
      </Modal>
    </>
  );
}

interface PostAllProps {
  readonly what: 'receipts' | 'invoices';
  readonly noun: { readonly one: string; readonly many: string };
  /** What of the list is shown, as its address has it. */
  readonly filter: unknown;
}

/**
 * Posts what is picked, or else all that is shown: first the sum of what will be written, then the change, with progress
 * and cancel.
 */
export function PostAll({ what, noun, filter }: PostAllProps) {
  const money = useMoney();
  const toasts = useToasts();
  const router = useRouter();
  const job = useJob();
  const [shown, setShown] = useState<Posting | null>(null);
  const picks = usePicks();
  const picked = [...(picks?.picked ?? [])];
  const run = async (dryRun: boolean) => {
    setShown(null);
    const input = picked.length > 0 ? { ids: picked } : { filter };
    const answer = await job.run<Posting>({ kind: 'post', what, input, dryRun });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (dryRun) return setShown(answer.value);
    if (answer.change) toasts.changed(answer.change);
    picks?.clear();
    router.refresh();
  };
  const counted = (n: number) => plural(n, noun.one, noun.many);
  return (
    <>
      <Button variant="plain" disabled={job.running !== null} onClick={() => void run(true)}>
        {picked.length > 0 ? `Post ${picked.length} picked…` : 'Post all shown…'}
      </Button>
      {job.running ? (
        <div className="w-100">
          <JobProgress job={job} />
        </div>
      ) : null}
      <Modal show={shown !== null} onHide={() => setShown(null)} aria-labelledby="post-all-title" scrollable>
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="post-all-title">
            {shown?.posted === 0
              ? `None of these ${noun.many} can be posted`
              : `Post ${counted(shown?.posted ?? 0)}, ${money(shown?.gross ?? (0 as never))}`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {shown && shown.posted > 0 ? (
            <>
              <h2>Balances it moves</h2>
              <BalanceMoves moves={shown.moves} />
            </>
          ) : null}
          {shown && shown.posted + shown.notPostedCount === 0 ? (
            <p className="mb-0">All of it is posted already.</p>
          ) : null}
          {shown && shown.notPostedCount > 0 ? <NotPostedList posting={shown} noun={noun} /> : null}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={() => setShown(null)}>
            Leave it
          </Button>
          {shown && shown.posted > 0 ? (
            <Button variant="primary" onClick={() => void run(false)} autoFocus>
              Post {counted(shown.posted)}
            </Button>
          ) : null}
        </Modal.Footer>
      </Modal>
    </>
  );
}

function NotPostedList({ posting, noun }: { posting: Posting; noun: PostAllProps['noun'] }) {
  const { notPosted, notPostedCount } = posting;
  return (
    <div className="mt-3">
      <h2>
        {notPostedCount} {notPostedCount === 1 ? noun.one : noun.many} cannot be posted yet
      </h2>
      <ul className="mb-0 ps-3">
        {notPosted.map((item) => (
          <li key={item.name}>
            {item.words.what} <span className="soft">{item.words.next}</span>
          </li>
        ))}
      </ul>
      {notPostedCount > notPosted.length ? (
        <p className="soft mb-0">and {notPostedCount - notPosted.length} more</p>
      ) : null}
    </div>
  );
}
