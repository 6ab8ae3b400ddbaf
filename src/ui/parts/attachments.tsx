'use client';

import { useRouter } from 'next/navigation';
import { useRef } from 'react';
import Button from 'react-bootstrap/Button';
import { Paperclip } from 'react-bootstrap-icons';
import type { AttachmentSubject, AttachmentView } from '@/books/billing/attachments';
import { useBooks } from '../frame/books-context';
import { useToasts } from '../frame/toasts';
import type { ActionAnswer } from './action-answer';

interface Props {
  readonly subject: AttachmentSubject;
  readonly id: number;
  readonly list: readonly AttachmentView[];
  readonly takeOff: (books: string, input: { attachment: number; removed: boolean }) => Promise<ActionAnswer<null>>;
}

const size = (bytes: number) =>
  bytes < 1024 * 1024 ? `${Math.ceil(bytes / 1024)} KB` : `${(bytes / 1024 / 1024).toFixed(1)} MB`;

/** Files that belong to a document. */
export function Attachments({ subject, id, list, takeOff }: Props) {
  const books = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const input = useRef<HTMLInputElement>(null);
  const add = async (file: File) => {
    const response = await fetch(`/api/books/${books.id}/attachments/${subject}/${id}`, {
      method: 'POST',
      headers: { 'x-file-name': encodeURIComponent(file.name) },
      body: file,
    });
    const answer = (await response.json()) as ActionAnswer<{ attachment: number }>;
    if (input.current) input.current.value = '';
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const remove = async (attachment: number) => {
    const answer = await takeOff(books.id, { attachment, removed: true });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <section aria-label="Attachments">
      <h2>
        Attachments{' '}
        <Button variant="link" size="sm" className="p-0" onClick={() => input.current?.click()}>
          <Paperclip aria-hidden="true" /> Attach a file…
        </Button>
      </h2>
      <input
        ref={input}
        type="file"
        className="visually-hidden"
        tabIndex={-1}
        aria-label="File to attach"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void add(file);
        }}
      />
      {list.map((one) => (
        <div key={one.id} className="small">
          <a href={`/api/books/${books.id}/attachments/${subject}/${one.id}`}>{one.name}</a>{' '}
          <span className="soft">
            {size(one.bytes)}, {one.actor}
          </span>{' '}
          <Button
            variant="link"
            size="sm"
            className="p-0"
            aria-label={`Take off ${one.name}`}
            onClick={() => void remove(one.id)}
          >
            Take off
          </Button>
        </div>
      ))}
    </section>
  );
}
