'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { ProposedPayer } from '@/books/payers/payers';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { findPayersNow, proposePayersNow, setPayerNow } from '../actions';

/** Who paid a receipt that names nobody: what its note says, a name to look for, or a payer to be made. */
export function WhoPaid({ receipt, note }: { receipt: number; note: string }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [proposed, setProposed] = useState<readonly ProposedPayer[]>([]);
  const [found, setFound] = useState<readonly { id: number; name: string }[]>([]);
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  /** The email is another payer's: it has to be said that they are two. */
  const [twice, setTwice] = useState(false);
  useEffect(() => {
    if (note !== '') void proposePayersNow(id, receipt).then(setProposed);
  }, [id, receipt, note]);
  const choose = async (input: object) => {
    const answer = await setPayerNow(id, { receipt, payer: null, ...input });
    if (!answer.ok) {
      setTwice(answer.code === 'email-taken');
      return toasts.refused(answer.what, answer.next);
    }
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const look = async (text: string) => {
    setName(text);
    setFound(text.trim().length > 1 ? await findPayersNow(id, text) : []);
  };
  return (
    <section aria-label="Who paid">
      <h2>Who paid</h2>
      {proposed.length > 0 ? (
        <ul className="mb-2 ps-0 list-unstyled">
          {proposed.map((payer) => (
            <li key={payer.id}>
              <Button variant="link" size="sm" className="p-0" onClick={() => void choose({ payer: payer.id })}>
                {payer.name}
              </Button>{' '}
              <span className="soft small">{payer.because}</span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="soft small mb-1">
          {note === '' ? 'It has no note to tell by.' : 'Its note names no payer of these books.'}
        </p>
      )}
      <div className="d-flex gap-2">
        <Form.Control
          size="sm"
          aria-label="Name of the payer"
          placeholder="Name"
          value={name}
          onChange={(event) => void look(event.target.value)}
        />
        <Form.Control
          size="sm"
          aria-label="Email of a new payer"
          placeholder="Email, for a new one"
          value={email}
          onChange={(event) => {
            setEmail(event.target.value);
            setTwice(false);
          }}
        />
        <Button
          size="sm"
          variant="plain"
          className="text-nowrap"
          disabled={name.trim() === ''}
          onClick={() => void choose({ make: { name, email, evenSo: twice } })}
        >
          {twice ? 'They are two: make payer' : 'Make payer'}
        </Button>
      </div>
      {found.map((payer) => (
        <div key={payer.id}>
          <Button variant="link" size="sm" className="p-0" onClick={() => void choose({ payer: payer.id })}>
            {payer.name}
          </Button>
        </div>
      ))}
    </section>
  );
}
