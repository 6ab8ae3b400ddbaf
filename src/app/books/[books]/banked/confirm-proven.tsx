'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import { sum, type Minor } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { JobProgress } from '@/ui/parts/job';
import { ConfirmLaid, useConfirmLaid } from './confirm-laid';

/** Confirms all proven lines in one change, after one summary. */
export function ConfirmProven({ lines }: { lines: readonly { readonly id: number; readonly amount: Minor }[] }) {
  const money = useMoney();
  const { job, confirm } = useConfirmLaid('confirm-proven');
  const [asked, setAsked] = useState(false);
  if (lines.length === 0) return null;
  const deposits = `${lines.length} proven ${lines.length === 1 ? 'line' : 'lines'}`;
  const total = money(sum(lines.map((line) => line.amount)));
  return (
    <>
      <Button variant="plain" size="sm" disabled={job.running !== null} onClick={() => setAsked(true)}>
        Confirm {lines.length} proven…
      </Button>
      <JobProgress job={job} />
      <ConfirmLaid
        id="proven-title"
        title={`Confirm ${deposits}, ${total}`}
        shown={asked}
        count={lines.length}
        onLeave={() => setAsked(false)}
        onConfirm={() => {
          setAsked(false);
          void confirm(lines);
        }}
      >
        <p>
          Each is equal to the cent and has only one explanation: a payout, an invoice or an own account that the bank’s
          text names, or a payout that nothing else can be. Each gets an entry of its own, and can be taken apart again.
        </p>
      </ConfirmLaid>
    </>
  );
}
