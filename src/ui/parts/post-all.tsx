'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import type { Posting } from '@/books/ledger/posting';
import { plural } from '@/core/words';
import { useMoney } from '../frame/books-context';
import { useToasts } from '../frame/toasts';
import { BalanceMoves } from './entry';
import { JobProgress, useJob } from './job';
import { usePicks } from './picks';

interface Props {
  /** Reversed are receipts only: an invoice is credited, and reversed one by one. */
  readonly act: 'post' | 'reverse';
  readonly what: 'receipts' | 'invoices';
  readonly noun: { readonly one: string; readonly many: string };
  /** What of the list is shown, as its address has it. */
  readonly filter: unknown;
}

const WORDS = {
  post: { verb: 'Post', none: 'can be posted' },
  reverse: { verb: 'Reverse', none: 'is posted' },
} as const;

/**
 * Posts or reverses what is picked, or else all that is shown: first the sum of what will be written, then the change, with
 * progress and cancel.
 */
export function PostAll({ act, what, noun, filter }: Props) {
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
    const answer = await job.run<Posting>(
      act === 'post' ? { kind: 'post', what, input, dryRun } : { kind: 'reverse-receipts', input, dryRun },
    );
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (dryRun) return setShown(answer.value);
    if (answer.change) toasts.changed(answer.change);
    picks?.clear();
    router.refresh();
  };
  const { verb, none } = WORDS[act];
  // What is reversed are entries: that of a day holds many receipts.
  const counted = (n: number) => (act === 'post' ? plural(n, noun.one, noun.many) : plural(n, 'entry', 'entries'));
  return (
    <>
      <Button variant="plain" disabled={job.running !== null} onClick={() => void run(true)}>
        {picked.length > 0 ? `${verb} ${picked.length} picked…` : `${verb} all shown…`}
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
              ? `None of these ${noun.many} ${none}`
              : `${verb} ${counted(shown?.posted ?? 0)}${act === 'post' ? `, ${money(shown?.gross ?? (0 as never))}` : ''}`}
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
              {verb} {counted(shown.posted)}
            </Button>
          ) : null}
        </Modal.Footer>
      </Modal>
    </>
  );
}

function NotPostedList({ posting, noun }: { posting: Posting; noun: Props['noun'] }) {
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
