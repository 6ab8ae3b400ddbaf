'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import { connectNow } from '../../actions';

interface Props {
  readonly channels: readonly { readonly id: number; readonly name: string }[];
  readonly banks: readonly { readonly id: number; readonly name: string }[];
  /** Simulated services of this server. */
  readonly worlds: readonly string[];
}

/** Connects a channel or a bank account with the service it is asked at. */
export function ConnectForm({ channels, banks, worlds }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [of, setOf] = useState(channels[0] ? `channel ${channels[0].id}` : `account ${banks[0]!.id}`);
  const [address, setAddress] = useState('');
  const [secret, setSecret] = useState('');
  const [trouble, setTrouble] = useState('');
  const [kind, key] = of.split(' ') as ['channel' | 'account', string];
  const connect = async () => {
    const which = { channel: null, account: null, [kind]: Number(key) };
    const answer = await connectNow(id, { ...which, address, secret });
    if (!answer.ok) return setTrouble(`${answer.what} ${answer.next}`);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/set-up/fetching?connection=${answer.value.connection}`);
  };
  const side = kind === 'channel' ? 'desk' : 'bank';
  return (
    <section className="panel" aria-label="Connect">
      <section>
        <h2>Connect</h2>
        <Form.Group controlId="connect-of" className="mb-2">
          <Form.Label>What is fetched</Form.Label>
          <Form.Select size="sm" value={of} onChange={(event) => setOf(event.target.value)}>
            {channels.map((one) => (
              <option key={one.id} value={`channel ${one.id}`}>
                receipts and payouts of {one.name}
              </option>
            ))}
            {banks.map((one) => (
              <option key={one.id} value={`account ${one.id}`}>
                statements of {one.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="connect-address" className="mb-2">
          <Form.Label>Address of the service</Form.Label>
          <Form.Control
            size="sm"
            list="connect-worlds"
            placeholder="https://…"
            autoComplete="off"
            value={address}
            onChange={(event) => setAddress(event.target.value)}
          />
          <datalist id="connect-worlds">
            {worlds.map((world) => (
              <option key={world} value={`/standins/${world}/${side}`} />
            ))}
          </datalist>
          <Form.Text>The service’s own, or a stand-in of this server.</Form.Text>
        </Form.Group>
        <Form.Group controlId="connect-key">
          <Form.Label>Key</Form.Label>
          <Form.Control
            size="sm"
            autoComplete="off"
            value={secret}
            onChange={(event) => setSecret(event.target.value)}
          />
          <Form.Text>The service gives it out; it opens the door and signs what is sent here.</Form.Text>
        </Form.Group>
        {trouble ? <Notice kind="refused">{trouble}</Notice> : null}
      </section>
      <div className="acts">
        <Button variant="primary" disabled={!address.trim() || !secret.trim()} onClick={() => void connect()}>
          Connect
        </Button>
      </div>
    </section>
  );
}
