'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { TicketOffered } from '@/books/public/register';
import { formatAmount, type Minor } from '@/core/money';
import { grossOf } from '@/core/receivables';
import { AskForm, WhoFields, type Who } from '@/ui/public/ask-form';
import { useBegin } from '@/ui/public/use-begin';
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
  const [who, setWho] = useState<Who>({ name: '', email: '' });
  const { busy, refused, refuse, begin } = useBegin();
  const numbers = counts.map((text) => (/^\d{1,3}$/.test(text) ? Number(text) : 0));
  const places = numbers.reduce((all, count) => all + count, 0);
  const total = grossOf(tickets, numbers);
  const money = (of: Minor) => `${formatAmount(of, currency)} ${currency}`;
  const send = () => {
    if (places === 0) return refuse('Choose at least one ticket.');
    if (places > left) return refuse(`Only ${left} are left. Choose fewer.`);
    void begin(() => registerNow(books, { token, request, counts: numbers, ...who }));
  };
  return (
    <AskForm send={total > 0 ? `Register, ${money(total)}` : 'Register'} busy={busy} refused={refused} onSend={send}>
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
      <WhoFields of="register" emailLabel="Email" who={who} onWho={setWho} />
    </AskForm>
  );
}
