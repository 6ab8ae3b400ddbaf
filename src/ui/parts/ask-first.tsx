'use client';

import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { Notice } from './notice';
import type { ActionAnswer } from './action-answer';

interface Props<T> {
  readonly id: string;
  readonly title: string;
  /** What the dry run of it said; null where nobody asks. */
  readonly shown: ActionAnswer<T> | null;
  readonly act: string;
  readonly onLeave: () => void;
  readonly onAct: () => void;
  /** What it would do. */
  readonly children: (value: T) => ReactNode;
}

/** Asks before something is done: what it would do, or why it cannot be done. */
export function AskFirst<T>({ id, title, shown, act, onLeave, onAct, children }: Props<T>) {
  return (
    <Modal show={shown !== null} onHide={onLeave} aria-labelledby={id}>
      <Modal.Header closeButton>
        <Modal.Title as="h2" id={id}>
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {shown?.ok === false ? (
          <Notice kind="refused">
            {shown.what} {shown.next}
          </Notice>
        ) : null}
        {shown?.ok ? children(shown.value) : null}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={onLeave}>
          Leave it
        </Button>
        {shown?.ok ? (
          <Button variant="primary" onClick={onAct} autoFocus>
            {act}
          </Button>
        ) : null}
      </Modal.Footer>
    </Modal>
  );
}
