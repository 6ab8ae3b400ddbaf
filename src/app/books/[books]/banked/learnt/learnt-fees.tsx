'use client';

import Link from 'next/link';
import { useState } from 'react';
import type { ShownStep } from '@/books/channels/fee-steps';
import type { FeeStepInput } from '@/books/channels/set-fee-step';
import type { FeeCheck } from '@/books/proof/fee-check';
import { formatDate } from '@/core/calendar';
import { scheduleWords } from '@/core/channels';
import type { Currency, Minor } from '@/core/money';
import { counted, plural } from '@/core/words';
import { useBooks } from '@/ui/frame/books-context';
import { PlainTable } from '@/ui/parts/plain-table';
import { AmountField } from '../../set-up/channels/open/fields';
import { Act } from './act';
import { CorrectDialog } from './correct-dialog';

interface Props {
  readonly fees: readonly FeeCheck[];
  readonly steps: readonly ShownStep[];
  readonly onStep: (input: FeeStepInput) => void;
  readonly onForget: (channel: number) => void;
}

const evidence = ({ fit, of }: Pick<ShownStep, 'fit' | 'of'>) =>
  `${counted(fit)} of ${counted(of)} payouts and deposits fit it to the cent`;

/** What a channel is said to take from a day on, while it is corrected. */
interface Correcting extends FeeStepInput {
  readonly name: string;
  readonly currency: Currency;
  readonly schedule: NonNullable<FeeStepInput['schedule']>;
  readonly says: string;
}

/** What channels charge otherwise than was agreed: told by each receipt, or learnt of what several came to. */
export function LearntFees({ fees, steps, onStep, onForget }: Props) {
  const { id } = useBooks();
  const [open, setOpen] = useState<Correcting | null>(null);
  const known = (check: FeeCheck) => steps.some((step) => step.channel === check.channel && step.since === check.since);
  const told = fees.filter((check) => !known(check));
  if (told.length + steps.length === 0) return null;
  const correct = ({ channel, name, since, currency, schedule }: Omit<Correcting, 'says'>, says: string) => (
    <Act
      of={`what ${name} takes from ${formatDate(since)}`}
      says="Correct"
      onClick={() => setOpen({ channel, name, since, currency, schedule, says })}
    />
  );
  return (
    <>
      <h2>What channels charge</h2>
      <PlainTable label="What channels charge" heads={['Channel', 'From', 'It takes', 'It rests on', { acts: true }]}>
        {steps.map((step) => (
          <tr key={`${step.channel} ${step.since}`}>
            <td>{step.name}</td>
            <td className="text-nowrap">{formatDate(step.since)}</td>
            <td>{scheduleWords(step.schedule, step.currency)}</td>
            <td className="wide">{step.learnt ? `${evidence(step)}; proposals go by it` : 'agreed'}</td>
            <td className="text-end text-nowrap">
              {step.learnt ? (
                <>
                  <Act
                    of={`what ${step.name} takes from ${formatDate(step.since)}`}
                    says="Agree to it"
                    onClick={() => onStep({ channel: step.channel, since: step.since, schedule: step.schedule })}
                  />
                  {correct(step, `${evidence(step)}.`)}
                  <Act of={`what ${step.name} taught`} says="Forget" onClick={() => onForget(step.channel)} />
                </>
              ) : (
                <>
                  {correct(step, 'This was agreed.')}
                  <Act
                    of={`what ${step.name} takes from ${formatDate(step.since)}`}
                    says="Take it back"
                    onClick={() => onStep({ channel: step.channel, since: step.since, schedule: null })}
                  />
                </>
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
                <>
                  <Act
                    of={`what ${check.name} takes from ${formatDate(check.since)}`}
                    says="Agree to it"
                    onClick={() =>
                      onStep({ channel: check.channel, since: check.since!, schedule: check.learnt!.schedule })
                    }
                  />
                  {correct(
                    { ...check, since: check.since, schedule: check.learnt.schedule },
                    `${counted(check.learnt.fit)} of ${plural(check.learnt.of, 'receipt')} fit ${scheduleWords(check.learnt.schedule, check.currency)} to the cent.`,
                  )}
                  <Act of={`what ${check.name} taught`} says="Forget" onClick={() => onForget(check.channel)} />
                </>
              ) : null}
            </td>
          </tr>
        ))}
      </PlainTable>
      {open === null ? null : (
        <CorrectDialog
          id="fee-title"
          title={`What ${open.name} takes from ${formatDate(open.since)}`}
          says={`${open.says} What is confirmed stays as it was confirmed; what is not goes by what you agree to.`}
          ready
          act="Agree to it"
          onLeave={() => setOpen(null)}
          onSave={() => {
            onStep({ channel: open.channel, since: open.since, schedule: open.schedule });
            setOpen(null);
          }}
        >
          <div className="d-flex gap-3">
            <AmountField
              label="Of each receipt, %"
              currency="EUR"
              value={open.schedule.rate as Minor}
              onAmount={(rate) => setOpen({ ...open, schedule: { ...open.schedule, rate } })}
            />
            <AmountField
              label="and a receipt"
              currency={open.currency}
              value={open.schedule.fixed as Minor}
              onAmount={(fixed) => setOpen({ ...open, schedule: { ...open.schedule, fixed } })}
            />
          </div>
        </CorrectDialog>
      )}
    </>
  );
}
