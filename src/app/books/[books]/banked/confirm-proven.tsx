'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import { sum, type Minor } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { JobProgress, useJob } from '@/ui/parts/job';

/** Confirms all proven lines in one change, after one summary. */
export function ConfirmProven({ lines }: { lines: readonly { readonly id: number; readonly amount: Minor }[] }) {
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const [asked, setAsked] = useState(false);
  if (lines.length === 0) return null;
  const deposits = `${lines.length} proven ${lines.length === 1 ? 'line' : 'lines'}`;
  const total = money(sum(lines.map((line) => line.amount)));
  const confirm = async () => {
    setAsked(false);
    const answer = await job.run({ kind: 'confirm-proven', input: { lines: lines.map((line) => line.id) } });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <>
      <Button variant="plain" size="sm" disabled={job.running !== null} onClick={() => setAsked(true)}>
        Confirm {lines.length} proven…
      </Button>
      <JobProgress job={job} />
      <Modal show={asked} onHide={() => setAsked(false)} aria-labelledby="proven-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="proven-title">
            Confirm {deposits}, {total}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          <p>
            Each is equal to the cent and has only one explanation: a payout, an invoice or an own account that the
            bank’s text names, or a payout that nothing else can be. Each gets an entry of its own, and can be taken
            apart again.
          </p>
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={() => setAsked(false)}>
            Leave them
          </Button>
          <Button variant="primary" onClick={() => void confirm()} autoFocus>
            Confirm {lines.length}
          </Button>
        </Modal.Footer>
      </Modal>
    </>
  );
}
