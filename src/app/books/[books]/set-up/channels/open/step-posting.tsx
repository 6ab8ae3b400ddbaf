'use client';

import { useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { PlainDate } from '@/core/calendar';
import { useBooks } from '@/ui/frame/books-context';
import { findPayersNow } from '../../../actions';
import { RadioField } from './fields';
import type { StepProps } from './open-channel';

/** An entry for each receipt or one a day; by itself or after a look. */
export function PostingStep(props: StepProps) {
  const { answers, set } = props;
  return (
    <>
      <section>
        <h2>What is posted</h2>
        <RadioField
          name="mode"
          value={answers.mode}
          choices={[
            ['each', 'an entry for each receipt'],
            ['summary', 'one entry for all receipts of a day and site, with the receipts listed behind it'],
          ]}
          onChoice={(mode) => set({ mode })}
        />
      </section>
      <PaidFields {...props} />
    </>
  );
}

/** Whether it posts by itself, when a debit counts as paid, and who stands for everyone that pays here. */
export function PaidFields({ page, answers, set }: StepProps) {
  const { id } = useBooks();
  const [found, setFound] = useState<readonly { id: number; name: string }[]>([]);
  const [name, setName] = useState(page.genericPayers.find((payer) => payer.id === answers.payer)?.name ?? '');
  const look = async (text: string) => {
    setName(text);
    if (text.trim() === '') {
      setFound([]);
      return set({ payer: null });
    }
    const payers = text.trim().length > 1 ? await findPayersNow(id, text) : [];
    setFound(payers);
    set({ payer: payers.find((payer) => payer.name === text.trim())?.id ?? null });
  };
  return (
    <section>
      <Form.Check
        type="switch"
        id="posts-itself"
        label="post what is brought in by itself, without a look"
        checked={answers.postsItself ?? false}
        onChange={(event) => set({ postsItself: event.target.checked })}
      />
      {answers.kind === 'debit-bureau' ? (
        <div className="mt-3">
          <h2>When a debit counts as paid</h2>
          <RadioField
            name="paid-when"
            value={answers.paidWhen}
            choices={[
              ['debit-day', 'on the day of the debit; a return reopens what it paid'],
              ['collected', 'when it is collected: once the bureau says which payout it is in, dated as that payout'],
            ]}
            onChoice={(paidWhen) => set({ paidWhen })}
          />
        </div>
      ) : null}
      <div className="mt-3">
        <h2>Who pays here</h2>
        <p className="soft mb-1">
          Payers are found by the channel’s own id, then email, then name, and made where they are new. Where they are
          not to be told apart, one payer can stand for all of them.
        </p>
        <Form.Control
          size="sm"
          style={{ width: '20rem' }}
          list="payers-for-all"
          aria-label="One payer for all who are not named"
          placeholder="nobody: payers are told apart"
          value={name}
          onChange={(event) => void look(event.target.value)}
        />
        <datalist id="payers-for-all">
          {found.map((payer) => (
            <option key={payer.id} value={payer.name} />
          ))}
        </datalist>
        {name.trim() !== '' && answers.payer == null ? (
          <p className="small mb-0">No payer has exactly this name; choose one from the list that opens.</p>
        ) : null}
      </div>
    </section>
  );
}

/** From which day on receipts are taken in. */
export function HistoryFields({ answers, set }: StepProps) {
  return (
    <section>
      <h2>Where its history begins</h2>
      <Form.Group controlId="field-history">
        <Form.Label>First day that is taken in</Form.Label>
        <Form.Control
          size="sm"
          type="date"
          style={{ width: 'auto' }}
          value={answers.historyFrom ?? ''}
          onChange={(event) =>
            set({ historyFrom: event.target.value === '' ? null : (event.target.value as PlainDate) })
          }
        />
        <Form.Text>
          Left empty, all that an export holds is taken in. Receipts before the day are refused, each with its reason.
        </Form.Text>
      </Form.Group>
    </section>
  );
}
