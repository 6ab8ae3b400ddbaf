'use client';

import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import { LIMITS } from '@/formats/finding';
import { useBooks } from '../frame/books-context';

const LIMIT_MB = LIMITS.fileBytes / 1024 / 1024;

export interface Trouble {
  readonly what: string;
  readonly next: string;
}

/** A file that the server has now, by the hash of its bytes. */
export interface SentFile {
  readonly name: string;
  readonly sha256: string;
}

/** Sends a file to the server, or says why it was not taken. Files over the limit are not sent. */
export function useSending() {
  const { id } = useBooks();
  const [sending, setSending] = useState(false);
  const send = async (file: File): Promise<SentFile | Trouble> => {
    if (file.size > LIMITS.fileBytes) {
      return {
        what: `${file.name} is larger than ${LIMIT_MB} MB.`,
        next: 'Export it in shorter periods and bring them in one after the other. Nothing was sent.',
      };
    }
    setSending(true);
    try {
      const sent = await fetch(`/api/books/${id}/files`, { method: 'POST', body: file });
      const body = (await sent.json()) as { sha256?: string } & Trouble;
      return body.sha256 ? { name: file.name, sha256: body.sha256 } : body;
    } catch {
      return { what: 'The file could not be sent.', next: 'Check that the server is running, then choose it again.' };
    } finally {
      setSending(false);
    }
  };
  return { sending, send };
}

interface Props {
  /** Which files are taken, in words. */
  readonly takes: string;
  readonly accept: string;
  readonly disabled: boolean;
  readonly onFile: (file: File) => void;
}

/** Where a file is chosen or dropped. */
export function FileDrop({ takes, accept, disabled, onFile }: Props) {
  const field = useRef<HTMLInputElement>(null);
  const [over, setOver] = useState(false);
  return (
    <div
      className={`file-drop mb-3${over ? ' over' : ''}`}
      onDragOver={(event) => {
        event.preventDefault();
        setOver(true);
      }}
      onDragLeave={() => setOver(false)}
      onDrop={(event) => {
        event.preventDefault();
        setOver(false);
        const file = event.dataTransfer.files[0];
        if (file) onFile(file);
      }}
    >
      <p className="mb-2">{takes}</p>
      <input
        ref={field}
        type="file"
        className="visually-hidden"
        accept={accept}
        aria-label="File to bring in"
        tabIndex={-1}
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) onFile(file);
        }}
      />
      <Button variant="primary" onClick={() => field.current?.click()} disabled={disabled}>
        Choose a file…
      </Button>
      <span className="soft small ms-3">or drop it here; up to {LIMIT_MB} MB. You see what it holds first.</span>
    </div>
  );
}
