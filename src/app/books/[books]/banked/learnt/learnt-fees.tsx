'use client';

import Link from 'next/link';
import Button from 'react-bootstrap/Button';
import type { ShownStep } from '@/books/channels/fee-steps';
import type { FeeStepInput } from '@/books/channels/set-fee-step';
import type { FeeCheck } from '@/books/proof/fee-check';
import { formatDate } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import { counted, plural } from '@/core/words';
import { useBooks } from '@/ui/frame/books-context';
import { PlainTable } from '@/ui/parts/plain-table';

interface Props {
  readonly fees: readonly FeeCheck[];
  readonly steps: readonly ShownStep[];
  readonly onStep: (input: FeeStepInput) => void;
  readonly onForget: (channel: number) => void;
}

function Act({
  label,
  says,
  onClick,
}: {
  readonly label: string;
  readonly says: string;
  readonly onClick: () => void;
}) {
  return (
    <Button variant="link" size="sm" className="p-0 ms-2" aria-label={label} onClick={onClick}>
      {says}
    </Button>
  );
}

/** What channels charge otherwise than was agreed: told by each receipt, or learnt of what several came to. */
export function LearntFees({ fees, steps, onStep, onForget }: Props) {
  const { id } = useBooks();
  const known = (check: FeeCheck) => steps.some((step) => step.channel === check.channel && step.since === check.since);
  const told = fees.filter((check) => !known(check));
  if (told.length + steps.length === 0) return null;
  return (
    <>
      <h2>What channels charge</h2>
      <PlainTable label="What channels charge" heads={['Channel', 'From', 'It takes', 'It rests on', { acts: true }]}>
        {steps.map((step) => (
          <tr key={`${step.channel} ${step.since}`}>
            <td>{step.name}</td>
            <td className="text-nowrap">{formatDate(step.since)}</td>
            <td>{scheduleWords(step.schedule, step.currency)}</td>
            <td className="wide">
              {step.learnt
                ? `${counted(step.fit)} of ${counted(step.of)} payouts and deposits fit it to the cent; proposals go by it`
                : 'agreed'}
            </td>
            <td className="text-end text-nowrap">
              {step.learnt ? (
                <>
                  <Act
                    label={`Agree to what ${step.name} takes from ${formatDate(step.since)}`}
                    says="Agree to it"
                    onClick={() => onStep({ channel: step.channel, since: step.since, schedule: step.schedule })}
                  />
                  <Act label={`Forget what ${step.name} taught`} says="Forget" onClick={() => onForget(step.channel)} />
                </>
              ) : (
                <Act
                  label={`Take back what ${step.name} takes from ${formatDate(step.since)}`}
                  says="Take it back"
                  onClick={() => onStep({ channel: step.channel, since: step.since, schedule: null })}
                />
              )}
            </td>
          </tr>
        ))}
        {told.map((check) => (
          <tr key={check.channel}>
            <td>{check.name}</td>
            <td className="text-nowrap">{check.since === null ? '' : formatDate(check.since)}</td>
            <td>{check.learnt === null ? '' : scheduleWords(check.learnt.schedule, check.currency)}</td>
            <td className="wide">
              {check.learnt === null
                ? ''
                : `${counted(check.learnt.fit)} of ${plural(check.learnt.of, 'receipt')} fit it to the cent; `}
              {scheduleWords(check.schedule, check.currency)} was agreed
            </td>
            <td className="text-end text-nowrap">
              <Link className="btn btn-link btn-sm p-0" href={`/books/${id}/in-transit/fees?channel=${check.channel}`}>
                See which
              </Link>
              {check.learnt !== null && check.since !== null ? (
                <Act
                  label={`Agree to what ${check.name} takes from ${formatDate(check.since)}`}
                  says="Agree to it"
                  onClick={() =>
                    onStep({ channel: check.channel, since: check.since!, schedule: check.learnt!.schedule })
                  }
                />
              ) : null}
            </td>
          </tr>
        ))}
      </PlainTable>
    </>
  );
}
