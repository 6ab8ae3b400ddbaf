'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { TicketOffered } from '@/books/public/register';
import { formatAmount, type Minor } from '@/core/money';
import { grossOf } from '@/core/receivables';
import { useRequest } from '@/ui/public/use-request';
import { registerNow } from './actions';

interface Props {
  readonly books: string;
  readonly token: string;
  readonly tickets: readonly TicketOffered[];
  readonly left: number;
  readonly currency: string;
}

/** How many of which tickets, and who comes. */
export function RegisterForm({ books, token, tickets, left, currency }: Props) {
  const request = useRequest();
  const [counts, setCounts] = useState<readonly string[]>(tickets.map(() => '0'));
  const [name, setName] = useState('');
  const [email, setEmail] = useState('');
  const [refused, setRefused] = useState('');
  const [busy, setBusy] = useState(false);
  const numbers = counts.map((text) => (/^\d{1,3}$/.test(text) ? Number(text) : 0));
  const places = numbers.reduce((all, count) => all + count, 0);
  const total = grossOf(tickets, numbers);
  const money = (of: Minor) => `${formatAmount(of, currency)} ${currency}`;
  const send = async () => {
    if (places === 0) return setRefused('Choose at least one ticket.');
    if (places > left) return setRefused(`Only ${left} are left. Choose fewer.`);
    setBusy(true);
    setRefused('');
    const answer = await registerNow(books, { token, request, counts: numbers, name, email });
    if (answer.ok) return window.location.assign(answer.value.pay);
    setBusy(false);
    setRefused(`${answer.what} ${answer.next}`);
  };
  return (
    <Form
      className="ask"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      {tickets.map((ticket, index) => (
        <Form.Group key={ticket.name} controlId={`ticket-${index}`} className="d-flex gap-3 align-items-center mb-2">
          <Form.Control
            type="number"
            min={0}
            max={Math.min(100, left)}
            style={{ width: 80 }}
            value={counts[index]}
            onChange={(event) => setCounts(counts.map((one, at) => (at === index ? event.target.value : one)))}
          />
          <Form.Label className="mb-0">
            {ticket.name}, {ticket.price === 0 ? 'free' : money(grossOf([ticket], [1]))}
          </Form.Label>
        </Form.Group>
      ))}
      <div className="two mb-3">
        <Form.Group controlId="register-name">
          <Form.Label>Name</Form.Label>
          <Form.Control
            required
            maxLength={120}
            autoComplete="name"
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
          {/* prettier-ignore */}
        </Form.Group>
        <Form.Group controlId="register-email">
          <Form.Label>Email</Form.Label>
          <Form.Control
            required
            type="email"
            maxLength={200}
            autoComplete="email"
            value={email}
            onChange={(event) => setEmail(event.target.value)}
          />
          {/* prettier-ignore */}
        </Form.Group>
      </div>
      <Button type="submit" variant="primary" size="lg" disabled={busy}>
        {total > 0 ? `Register, ${money(total)}` : 'Register'}
      </Button>
      {refused ? (
        <p className="notice refused mt-2" role="alert">
          {refused}
        </p>
      ) : null}
    </Form>
  );
}
