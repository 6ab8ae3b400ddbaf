'use client';

import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';

interface Props {
  readonly id: string;
  readonly title: string;
  /** What it rests on now, or why the entry is needed. */
  readonly says: string;
  /** Whether what is entered can be kept. */
  readonly ready: boolean;
  readonly act: string;
  readonly onLeave: () => void;
  readonly onSave: () => void;
  /** The fields. */
  readonly children: ReactNode;
}

/** Says otherwise than what was learnt: what it says now, fields for what holds, and a way to leave it. */
export function CorrectDialog({ id, title, says, ready, act, onLeave, onSave, children }: Props) {
  return (
    <Modal show onHide={onLeave} aria-labelledby={id}>
      <Form
        onSubmit={(event) => {
          event.preventDefault();
          if (ready) onSave();
        }}
      >
        <Modal.Header closeButton>
          <Modal.Title as="h2" id={id}>
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p className="soft">{says}</p>
          {children}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={onLeave}>
            Leave it
          </Button>
          <Button type="submit" variant="primary" disabled={!ready}>
            {act}
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
