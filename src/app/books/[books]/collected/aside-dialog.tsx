'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';

interface AsideProps {
  readonly shown: boolean;
  /** What is set aside, in words. */
  readonly name: string;
  /** What that means, where it is not a receipt. */
  readonly means?: string;
  readonly onHide: () => void;
  readonly onReason: (reason: string) => void;
}

/** Asks why receipts are not wanted in the books. */
export function AsideDialog({ shown, name, means, onHide, onReason }: AsideProps) {
  const [reason, setReason] = useState('');
  return (
    <Modal show={shown} onHide={onHide} aria-labelledby="aside-title">
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          onReason(reason);
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="aside-title">
            Set {name} aside
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>{means ?? 'It stays in the list and is never posted, until it is taken back.'}</p>
          <Form.Group controlId="aside-reason">
            <Form.Label>Why it is not wanted in the books</Form.Label>
            <Form.Control
              autoFocus
              value={reason}
              maxLength={200}
              onChange={(event) => setReason(event.target.value)}
            />
          </Form.Group>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={onHide}>
            Leave it
          </Button>
          <Button type="submit" variant="primary" disabled={reason.trim() === ''}>
            Set aside
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
