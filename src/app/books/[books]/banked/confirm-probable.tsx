'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Modal from 'react-bootstrap/Modal';
import type { ProbableLine } from '@/books/statements/list';
import { formatDay } from '@/core/calendar';
import { sum, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { JobProgress, useJob } from '@/ui/parts/job';
import { findProbable } from '../actions';

/** Confirms probable lines together, once each was looked at: what is not ticked stays. */
export function ConfirmProbable({ count }: { readonly count: number }) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const job = useJob();
  const [lines, setLines] = useState<readonly ProbableLine[] | null>(null);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  if (count === 0) return null;
  const ask = async () => {
    setLeft(new Set());
    setLines(await findProbable(id));
  };
  const ticked = (lines ?? []).filter((line) => !left.has(line.id));
  const toggle = (line: number) =>
    setLeft((before) => {
      const next = new Set(before);
      if (!next.delete(line)) next.add(line);
      return next;
    });
  const confirm = async () => {
    setLines(null);
    const answer = await job.run({ kind: 'confirm-probable', input: { lines: ticked.map((line) => line.id) } });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <>
      <Button variant="plain" size="sm" disabled={job.running !== null} onClick={() => void ask()}>
        See {count} probable…
      </Button>
      <JobProgress job={job} />
      <Modal show={lines !== null} size="xl" scrollable onHide={() => setLines(null)} aria-labelledby="probable-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="probable-title">
            {plural(count, 'probable line')}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body className="p-0">
          <table className="list" aria-label="Probable lines">
            <thead>
              <tr>
                <th scope="col" style={{ width: 34 }}>
                  <span className="visually-hidden">Confirm</span>
                </th>
                <th scope="col" style={{ width: 64 }}>
                  Date
                </th>
                <th scope="col">The bank’s text</th>
                <th scope="col">Laid, because</th>
                <th scope="col" className="num" style={{ width: 100 }}>
                  Amount
                </th>
              </tr>
            </thead>
            <tbody>
              {(lines ?? []).map((line) => (
                <tr key={line.id}>
                  <td>
                    <input
                      type="checkbox"
                      aria-label={`Confirm ${line.laid} of ${formatDay(line.date)}`}
                      checked={!left.has(line.id)}
                      onChange={() => toggle(line.id)}
                    />
                  </td>
                  <td className="text-nowrap">{formatDay(line.date)}</td>
                  <td className="wide">{line.text || line.counterparty || line.reference}</td>
                  <td className="wide">
                    {line.laid}
                    <div className="sub">{line.because.join('; ')}</div>
                  </td>
                  <td className="num">{money(line.amount)}</td>
                </tr>
              ))}
              <tr className="totals">
                <td colSpan={4}>{plural(ticked.length, 'line')} ticked</td>
                <td className="num">{money(sum(ticked.map(({ amount }) => amount)) as Minor)}</td>
              </tr>
            </tbody>
          </table>
        </Modal.Body>
        <Modal.Footer>
          <span className="soft small me-auto">
            {lines !== null && count > lines.length ? `the newest ${lines.length} of ${count}; ` : ''}each gets an entry
            of its own, and can be taken apart again
          </span>
          <Button variant="plain" onClick={() => setLines(null)}>
            Leave them
          </Button>
          <Button variant="primary" disabled={ticked.length === 0} onClick={() => void confirm()}>
            Confirm {ticked.length}
          </Button>
        </Modal.Footer>
      </Modal>
    </>
  );
}
