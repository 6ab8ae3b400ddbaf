'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { PostingMode } from '@/books/store';
import { formatDate, type PlainDate } from '@/core/calendar';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { setModeNow } from '../../actions';

const WORDS: Readonly<Record<PostingMode, string>> = { each: 'each receipt', summary: 'one entry a day and site' };

interface Props {
  readonly channel: number;
  readonly name: string;
  /** Newest first. */
  readonly steps: readonly { readonly from: PlainDate; readonly mode: PostingMode }[];
}

/** How a channel posts, since when, and the switch to the other way from a day on. */
export function ModeSwitch({ channel, name, steps }: Props) {
  const { id, today } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [from, setFrom] = useState<string | null>(null);
  const now = steps[0]!;
  const other: PostingMode = now.mode === 'each' ? 'summary' : 'each';
  const run = async () => {
    const answer = await setModeNow(id, { channel, mode: other, from });
    setFrom(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <>
      {WORDS[now.mode]}
      {steps.length > 1 ? `, from ${formatDate(now.from)}; ${WORDS[steps[1]!.mode]} before` : ''}{' '}
      {from === null ? (
        <Button variant="link" size="sm" className="p-0" onClick={() => setFrom(today)}>
          Switch…
        </Button>
      ) : (
        <span className="d-flex gap-2 align-items-center flex-wrap mt-1">
          {WORDS[other]} from
          <Form.Control
            type="date"
            size="sm"
            style={{ width: 'auto' }}
            aria-label={`${name} posts ${WORDS[other]} from`}
            value={from}
            onChange={(event) => setFrom(event.target.value)}
          />
          <Button size="sm" variant="primary" disabled={from === ''} onClick={() => void run()}>
            Switch
          </Button>
          <Button size="sm" variant="plain" onClick={() => setFrom(null)}>
            Leave it
          </Button>
          <span className="small soft">What is posted already stays as it is.</span>
        </span>
      )}
    </>
  );
}
