'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { LearntDayCut } from '@/books/matching/day-cuts';
import { cutWords } from '@/core/channels';
import { PlainTable } from '@/ui/parts/plain-table';
import { Act } from './act';
import { CorrectDialog } from './correct-dialog';

interface Props {
  readonly cuts: readonly LearntDayCut[];
  readonly onCut: (input: { channel: number; minute: number }) => void;
  readonly onForget: (channel: number) => void;
}

/** Minutes after midnight as a field for times has them, and back. */
const clock = (minute: number) => (minute === 0 ? '00:00' : cutWords(minute));
const minuteOf = (text: string) => Number(text.slice(0, 2)) * 60 + Number(text.slice(3, 5));

function evidence({ set, learnt }: LearntDayCut): string {
  if (learnt === null) return 'nothing tells it';
  const fits = `${cutWords(learnt.minute)} fits ${learnt.fit} of ${learnt.of}`;
  return learnt.minute === set ? fits : `${fits}, ${cutWords(set)} fits ${learnt.asSet}`;
}

/** When channels cut their day, as the receipts of their payouts have it. */
export function LearntCuts({ cuts, onCut, onForget }: Props) {
  const [open, setOpen] = useState<LearntDayCut | null>(null);
  const [at, setAt] = useState('');
  if (cuts.length === 0) return null;
  return (
    <>
      <h2>When a channel’s day ends</h2>
      <PlainTable label="When channels cut their day" heads={['Channel', 'Set', 'By its payouts', { acts: true }]}>
        {cuts.map((cut) => (
          <tr key={cut.channel}>
            <td>{cut.name}</td>
            <td>{cutWords(cut.set)}</td>
            <td className="wide">{evidence(cut)}</td>
            <td className="text-end text-nowrap">
              {cut.learnt === null || cut.learnt.minute === cut.set ? null : (
                <Act
                  of={`the day of ${cut.name} at ${cutWords(cut.learnt.minute)}`}
                  says="Cut it there"
                  onClick={() => onCut({ channel: cut.channel, minute: cut.learnt!.minute })}
                />
              )}
              <Act
                of={`when the day of ${cut.name} ends`}
                says="Correct"
                onClick={() => {
                  setAt(clock(cut.set));
                  setOpen(cut);
                }}
              />
              {cut.learnt === null ? null : (
                <Act of={`what ${cut.name} taught`} says="Forget" onClick={() => onForget(cut.channel)} />
              )}
            </td>
          </tr>
        ))}
      </PlainTable>
      {open === null ? null : (
        <CorrectDialog
          id="cut-title"
          title={`When the day of ${open.name} ends`}
          says={`Now ${cutWords(open.set)}. By its payouts, ${evidence(open)}.`}
          ready={/^\d\d:\d\d$/.test(at)}
          act="Cut it then"
          onLeave={() => setOpen(null)}
          onSave={() => {
            onCut({ channel: open.channel, minute: minuteOf(at) });
            setOpen(null);
          }}
        >
          <Form.Group controlId="cut-at">
            <Form.Label>Its day ends at</Form.Label>
            <Form.Control
              autoFocus
              type="time"
              size="sm"
              style={{ width: 140 }}
              value={at}
              onChange={(event) => setAt(event.target.value)}
            />
            <Form.Text>What comes before is of the day before.</Form.Text>
          </Form.Group>
        </CorrectDialog>
      )}
    </>
  );
}
