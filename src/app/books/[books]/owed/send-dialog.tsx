'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { InvoiceDetail } from '@/books/invoices/detail';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { sendNow } from './actions';

/** Asks whom an invoice is mailed to and what is written above its figures. */
export function SendDialog({ invoice, onDone }: { invoice: InvoiceDetail; onDone: () => void }) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [to, setTo] = useState(invoice.email);
  const [message, setMessage] = useState('');
  const [busy, setBusy] = useState(false);
  const send = async () => {
    setBusy(true);
    const answer = await sendNow(id, { invoice: invoice.id, to: to.trim(), message });
    setBusy(false);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    onDone();
    router.refresh();
  };
  return (
    <Modal show onHide={onDone} aria-labelledby="send-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          void send();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="send-title">
            Send invoice {invoice.number}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <Form.Group controlId="send-to" className="mb-2">
            <Form.Label>To</Form.Label>
            <Form.Control type="email" required autoFocus value={to} onChange={(event) => setTo(event.target.value)} />
          </Form.Group>
          <Form.Group controlId="send-message">
            <Form.Label>Message</Form.Label>
            <Form.Control
              as="textarea"
              rows={4}
              maxLength={4000}
              value={message}
              onChange={(event) => setMessage(event.target.value)}
            />
            <Form.Text>
              Below it stand what is to pay, until when, and the link to pay it. The PDF goes along. The letter is kept
              in the outbox under Set-up, Stand-ins.
            </Form.Text>
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={onDone}>
            Leave it
          </Button>
          <Button type="submit" variant="primary" disabled={busy || to.trim() === ''}>
            Send
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
