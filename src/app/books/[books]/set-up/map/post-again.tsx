'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { MapPage } from '@/books/map/map-page';
import type { LandedLine, PostAgainList } from '@/books/map/repost';
import { formatDay } from '@/core/calendar';
import { minor } from '@/core/money';
import { useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { JobProgress, useJob } from '@/ui/parts/job';
import { valueName } from './map-words';
import { TableHeads } from '@/ui/parts/plain-table';

/** Posted receipts that the map would book otherwise now, with before and after, to be posted again by choice. */
export function PostAgain({ map }: { map: MapPage }) {
  const money = useMoney();
  const toasts = useToasts();
  const router = useRouter();
  const job = useJob();
  const [list, setList] = useState<PostAgainList | null>(null);
  const [picked, setPicked] = useState<ReadonlySet<number>>(new Set());

  const look = async () => {
    const answer = await job.run<PostAgainList>({ kind: 'post-again-list' });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    setList(answer.value);
    setPicked(new Set(answer.value.listed.map((row) => row.id)));
  };
  const run = async () => {
    setList(null);
    const answer = await job.run({ kind: 'repost', input: { ids: [...picked] } });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const toggle = (id: number) => {
    const next = new Set(picked);
    if (!next.delete(id)) next.add(id);
    setPicked(next);
  };
  const words = (line: LandedLine) =>
    [
      valueName('income', line.account, map),
      ...line.values.map((value) => map.dimensions.flatMap((d) => d.values).find((v) => v.id === value)?.name ?? '?'),
      money(minor(-line.amount)),
    ].join(' · ');
  return (
    <>
      <Button variant="plain" disabled={job.running !== null} onClick={() => void look()}>
        Posted otherwise…
      </Button>
      {job.running ? (
        <div className="w-100">
          <JobProgress job={job} />
        </div>
      ) : null}
      <Modal show={list !== null} onHide={() => setList(null)} size="lg" scrollable aria-labelledby="post-again-title">
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="post-again-title">
            {list?.count === 0
              ? 'All that is posted is where the map has it'
              : `${list?.count} posted receipts would land elsewhere now`}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {list?.count === 0 ? (
            <p className="mb-0">Closed months and daily summaries are not looked at.</p>
          ) : (
            <table className="list" aria-label="Posted otherwise">
              <TableHeads heads={['Again', 'Receipt', 'Posted to', 'The map has']} />
              <tbody>
                {list?.listed.map((row) => (
                  <tr key={row.id}>
                    <td>
                      <Form.Check
                        aria-label={`Post ${row.name} again`}
                        checked={picked.has(row.id)}
                        onChange={() => toggle(row.id)}
                      />
                    </td>
                    <td>
                      {row.name}
                      <div className="sub">
                        {formatDay(row.date)}, {row.payer ?? 'no name'}
                      </div>
                    </td>
                    <td>
                      {row.before.map(words).map((text, index) => (
                        <div key={index}>{text}</div>
                      ))}
                    </td>
                    <td>
                      {row.after.map(words).map((text, index) => (
                        <div key={index}>{text}</div>
                      ))}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          )}
          {list && list.count > list.listed.length ? (
            <p className="soft mt-2 mb-0">The first {list.listed.length} are listed; the others come after them.</p>
          ) : null}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={() => setList(null)}>
            Leave them
          </Button>
          {list && list.count > 0 ? (
            <Button variant="primary" disabled={picked.size === 0} onClick={() => void run()}>
              Reverse and post {picked.size} again
            </Button>
          ) : null}
        </Modal.Footer>
      </Modal>
    </>
  );
}
