'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { LaidLine } from '@/books/statements/list';
import { formatDay } from '@/core/calendar';
import { sum, type Minor } from '@/core/money';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { JobProgress } from '@/ui/parts/job';
import { findLaid } from '../actions';
import { ConfirmLaid, useConfirmLaid } from './confirm-laid';
import { TableHeads } from '@/ui/parts/plain-table';

/** What may be confirmed together only after a look at each, and its words. */
const KINDS = {
  probable: { job: 'confirm-probable', word: 'probable', title: (count: number) => plural(count, 'probable line') },
  'not-ours': {
    job: 'confirm-not-ours',
    word: 'not ours',
    title: (count: number) => `${plural(count, 'line')} not ours, by rule`,
  },
} as const;

interface Props {
  readonly kind: keyof typeof KINDS;
  readonly count: number;
}

/** Confirms lines together, once each was looked at: what is not ticked stays. */
export function ConfirmLookedAt({ kind, count }: Props) {
  const words = KINDS[kind];
  const { id } = useBooks();
  const money = useMoney();
  const { job, confirm } = useConfirmLaid(words.job);
  const [lines, setLines] = useState<readonly LaidLine[] | null>(null);
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  if (count === 0) return null;
  const ask = async () => {
    setLeft(new Set());
    setLines(await findLaid(id, kind));
  };
  const ticked = (lines ?? []).filter((line) => !left.has(line.id));
  const toggle = (line: number) =>
    setLeft((before) => {
      const next = new Set(before);
      if (!next.delete(line)) next.add(line);
      return next;
    });
  return (
    <>
      <Button variant="plain" size="sm" disabled={job.running !== null} onClick={() => void ask()}>
        See {count} {words.word}…
      </Button>
      <JobProgress job={job} />
      <ConfirmLaid
        id={`${kind}-title`}
        title={words.title(count)}
        shown={lines !== null}
        list
        count={ticked.length}
        note={`${lines !== null && count > lines.length ? `the newest ${lines.length} of ${count}; ` : ''}each gets an entry of its own, and can be taken apart again`}
        onLeave={() => setLines(null)}
        onConfirm={() => {
          setLines(null);
          void confirm(ticked);
        }}
      >
        <table className="list" aria-label={kind === 'probable' ? 'Probable lines' : 'Lines not ours'}>
          <TableHeads
            heads={[
              { name: 'Confirm', hidden: true, width: 34 },
              { name: 'Date', width: 64 },
              'The bank’s text',
              'Laid, because',
              { name: 'Amount', num: true, width: 100 },
            ]}
          />
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
      </ConfirmLaid>
    </>
  );
}
