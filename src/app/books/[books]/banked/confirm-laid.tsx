'use client';

import { useRouter } from 'next/navigation';
import type { ReactNode } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { useToasts } from '@/ui/frame/toasts';
import { useJob } from '@/ui/parts/job';

/** Confirms lines as they are laid, in a job of its own; says what came of it. */
export function useConfirmLaid(kind: 'confirm-proven' | 'confirm-probable' | 'confirm-not-ours') {
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const confirm = async (lines: readonly { readonly id: number }[]) => {
    const answer = await job.run({ kind, input: { lines: lines.map(({ id }) => id) } });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return { job, confirm };
}

interface Props {
  readonly id: string;
  readonly title: string;
  readonly shown: boolean;
  /** Many lines, to be looked at one by one. */
  readonly list?: boolean;
  /** How many are confirmed now. */
  readonly count: number;
  readonly note?: string;
  readonly onLeave: () => void;
  readonly onConfirm: () => void;
  readonly children: ReactNode;
}

/** What is about to be confirmed, and the two ways on. */
export function ConfirmLaid({ id, title, shown, list, count, note, onLeave, onConfirm, children }: Props) {
  return (
    <Modal show={shown} onHide={onLeave} aria-labelledby={id} {...(list && { size: 'xl', scrollable: true })}>
      <Modal.Header closeButton>
        <Modal.Title as="h2" id={id}>
          {title}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body className={list ? 'p-0' : ''}>{children}</Modal.Body>
      <Modal.Footer>
        {note ? <span className="soft small me-auto">{note}</span> : null}
        <Button variant="plain" onClick={onLeave}>
          Leave them
        </Button>
        <Button variant="primary" disabled={count === 0} onClick={onConfirm} autoFocus={!list}>
          Confirm {count}
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
