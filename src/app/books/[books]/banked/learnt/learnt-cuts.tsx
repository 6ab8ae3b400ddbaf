'use client';

import Button from 'react-bootstrap/Button';
import type { LearntDayCut } from '@/books/matching/day-cuts';
import { cutWords } from '@/core/channels';
import { PlainTable } from '@/ui/parts/plain-table';

interface Props {
  readonly cuts: readonly LearntDayCut[];
  readonly onCut: (input: { channel: number; minute: number }) => void;
}

/** When channels cut their day, as the receipts of their payouts have it. */
export function LearntCuts({ cuts, onCut }: Props) {
  if (cuts.length === 0) return null;
  return (
    <>
      <h2>When a channel’s day ends</h2>
      <PlainTable label="When channels cut their day" heads={['Channel', 'Set', 'Its payouts end at', { acts: true }]}>
        {cuts.map(({ channel, name, set, learnt }) => (
          <tr key={channel}>
            <td>{name}</td>
            <td>{cutWords(set)}</td>
            <td className="wide">
              {cutWords(learnt.minute)}: it fits {learnt.fit} of {learnt.of}
              {learnt.minute === set ? '' : `, ${cutWords(set)} fits ${learnt.asSet}`}
            </td>
            <td className="text-end text-nowrap">
              {learnt.minute === set ? null : (
                <Button
                  variant="link"
                  size="sm"
                  className="p-0"
                  aria-label={`Cut the day of ${name} at ${cutWords(learnt.minute)}`}
                  onClick={() => onCut({ channel, minute: learnt.minute })}
                >
                  Cut it there
                </Button>
              )}
              {set === 0 ? null : (
                <Button
                  variant="link"
                  size="sm"
                  className="p-0 ms-2"
                  aria-label={`Cut the day of ${name} at midnight again`}
                  onClick={() => onCut({ channel, minute: 0 })}
                >
                  At midnight again
                </Button>
              )}
            </td>
          </tr>
        ))}
      </PlainTable>
    </>
  );
}
