'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { LearntDayCut } from '@/books/matching/day-cuts';
import { cutWords } from '@/core/channels';
import type { FeeCheck } from '@/books/proof/fee-check';
import { useBooks } from '@/ui/frame/books-context';
import { PlainTable } from '@/ui/parts/plain-table';
import { learntWords, scheduleWords } from '../../in-transit/fees/fee-words';

interface Props {
  readonly cuts: readonly LearntDayCut[];
  readonly fees: readonly FeeCheck[];
  readonly onCut: (input: { channel: number; minute: number }) => void;
}

/** When channels cut their day, and what they charge, as what came of them has it. */
export function LearntChannels({ cuts, fees, onCut }: Props) {
  const { id } = useBooks();
  return (
    <>
      {cuts.length > 0 ? (
        <>
          <h2>When a channel’s day ends</h2>
          <PlainTable
            label="When channels cut their day"
            heads={['Channel', 'Set', 'Its payouts end at', { acts: true }]}
          >
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
      ) : null}
      {fees.length > 0 ? (
        <>
          <h2>What channels charge</h2>
          <PlainTable label="What channels charge" heads={['Channel', 'Set', 'It charged', { acts: true }]}>
            {fees.map((check) => (
              <tr key={check.channel}>
                <td>{check.name}</td>
                <td>{scheduleWords(check.schedule, check.currency)}</td>
                <td className="wide">{learntWords(check)}</td>
                <td className="text-end text-nowrap">
                  <Link className="small" href={`/books/${id}/in-transit/fees?channel=${check.channel}`}>
                    See which
                  </Link>
                  <Link className="small ms-2" href={`/books/${id}/set-up/channels/${check.channel}`}>
                    Correct
                  </Link>
                </td>
              </tr>
            ))}
          </PlainTable>
        </>
      ) : null}
    </>
  );
}
