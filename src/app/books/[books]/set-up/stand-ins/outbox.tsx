'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { MailRow } from '@/books/fetching/run-log';
import { momentWords } from '../fetching/moment';

/** Mail that was made: to be read here, whether a mail server took it or not. */
export function Outbox({ letters, zone }: { letters: readonly MailRow[]; zone: string }) {
  const [open, setOpen] = useState<number | null>(null);
  return (
    <section aria-label="Outbox">
      <h2>Outbox</h2>
      {letters.length === 0 ? (
        <p className="soft">
          No mail was made yet. Say under Fetching to whom the log of a connection is mailed, and each run’s letter
          stands here.
        </p>
      ) : (
        <div className="surface">
          <table className="list" aria-label="Outbox">
            <thead>
              <tr>
                <th scope="col">Made</th>
                <th scope="col">To</th>
                <th scope="col" className="w-100">
                  Subject
                </th>
                <th scope="col">Sent</th>
              </tr>
            </thead>
            <tbody>
              {letters.map((letter) => (
                <tr key={letter.id}>
                  <td className="text-nowrap">{momentWords(letter.madeAt, zone)}</td>
                  <td>{letter.recipient}</td>
                  <td className="wide">
                    <Button
                      variant="link"
                      size="sm"
                      className="p-0 text-start"
                      aria-expanded={open === letter.id}
                      onClick={() => setOpen(open === letter.id ? null : letter.id)}
                    >
                      {letter.subject}
                    </Button>
                    {open === letter.id ? <pre className="letter">{letter.body}</pre> : null}
                  </td>
                  <td className="text-nowrap">{letter.sentAt === null ? 'kept here' : 'by the mail server'}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
    </section>
  );
}
