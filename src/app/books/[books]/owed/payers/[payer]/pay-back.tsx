'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { TakingPlace } from '@/books/by-hand/places';
import { parseAmount, writeAmount, type Minor } from '@/core/money';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { keyNow } from '../../../collected/key/actions';

interface Props {
  readonly payer: number;
  /** The receipt whose money is kept, and what of it is left. */
  readonly reference: string;
  readonly left: Minor;
  /** Where it can be given from: the channel it came through, or its box. */
  readonly places: readonly TakingPlace[];
}

/** Pays back what is kept for a payer, the way it came. */
export function PayBack({ payer, reference, left, places }: Props) {
  const { id, currency, today } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [open, setOpen] = useState(false);
  const [place, setPlace] = useState('0');
  const [amount, setAmount] = useState(writeAmount(left, currency));
  const read = parseAmount(amount.trim(), currency);
  const fits = read.ok && read.minor > 0 && read.minor <= left;
  const pay = async () => {
    if (!read.ok || !fits) return;
    const { channel, site, method } = places[Number(place)]!;
    const answer = await keyNow(id, {
      place: { channel, site, method },
      date: today,
      payer,
      reference: '',
      lines: [{ item: null, description: '', amount: read.minor }],
      dimensions: [],
      fund: '',
      note: `paid back of ${reference}`,
      paysBack: reference,
    });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    setOpen(false);
    router.refresh();
  };
  return (
    <>
      <Button
        variant="link"
        size="sm"
        className="p-0"
        aria-label={`Pay back of ${reference}`}
        onClick={() => setOpen(true)}
      >
        Pay back…
      </Button>
      <Modal show={open} onHide={() => setOpen(false)} aria-labelledby="back-title">
        <Form
          onSubmit={(event) => {
            event.preventDefault();
            void pay();
          }}
        >
          <Modal.Header closeButton>
            <Modal.Title as="h2" id="back-title">
              Pay back of {reference}
            </Modal.Title>
          </Modal.Header>
          <Modal.Body>
            <Form.Group controlId="back-place" className="mb-2">
              <Form.Label>Given from</Form.Label>
              <Form.Select size="sm" value={place} onChange={(event) => setPlace(event.target.value)}>
                {places.map((one, index) => (
                  <option key={one.label} value={index}>
                    {one.label}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <Form.Group controlId="back-amount">
              <Form.Label>Amount</Form.Label>
              <Form.Control
                size="sm"
                className="num"
                autoFocus
                inputMode="decimal"
                isInvalid={!fits}
                value={amount}
                onChange={(event) => setAmount(event.target.value)}
              />
              <Form.Text>
                {writeAmount(left, currency)} {currency} is kept. It is keyed as money paid back, so do it where your
                channel does not report it itself.
              </Form.Text>
            </Form.Group>
          </Modal.Body>
          <Modal.Footer>
            <Button variant="plain" onClick={() => setOpen(false)}>
              Leave it
            </Button>
            <Button type="submit" variant="primary" disabled={!fits}>
              Pay back
            </Button>
          </Modal.Footer>
        </Form>
      </Modal>
    </>
  );
}
