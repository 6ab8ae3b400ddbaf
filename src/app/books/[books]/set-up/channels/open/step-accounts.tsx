'use client';

import Form from 'react-bootstrap/Form';
import { CHANNEL_ACCOUNTS } from '@/books/channels/channel-settings';
import { choicesFor } from '@/books/map/account-choices';
import type { AccountId } from '@/core/ledger';
import { freeCode } from './answers';
import { AccountField, TextField } from './fields';
import type { StepProps } from './open-channel';

const BEGIN = { asset: 1200, liability: 2300, income: 4900, expense: 6100, equity: 3000 } as const;
const WORDS: Readonly<Record<(typeof CHANNEL_ACCOUNTS)[number]['field'], string>> = {
  fees: 'Fees to',
  refunds: 'Refunds',
  tips: 'Tips',
  discounts: 'Discounts given',
  giftCards: 'Gift cards',
  chargebacks: 'Chargebacks without invoice',
  fx: 'Currency difference',
};

/** The clearing account that is made, and where everything else of the channel is booked. */
export function AccountsStep({ page, answers, set }: StepProps) {
  const clearing = answers.clearing!;
  return (
    <>
      <section>
        <h2>What it holds for you</h2>
        <p className="soft">
          A clearing account is made for this channel alone: it says on any day what the channel still owes you.
        </p>
        <div className="field-grid">
          <TextField label="Code" value={clearing.code} onText={(code) => set({ clearing: { ...clearing, code } })} />
          <TextField
            label="Name of the clearing account"
            value={clearing.name}
            onText={(name) => set({ clearing: { ...clearing, name } })}
          />
        </div>
      </section>
      <section>
        <h2>Where the rest is booked</h2>
        <div className="field-grid">
          {CHANNEL_ACCOUNTS.map(({ field, role, class: of, words, required }) => (
            <AccountField
              key={field}
              label={WORDS[field]}
              value={answers[field] ?? null}
              choices={page.accounts.filter((account) => account.role === role)}
              make={{ code: freeCode(page, BEGIN[of]), name: `${answers.name ?? ''} ${words.toLowerCase()}`.trim() }}
              none={required ? null : 'has none'}
              onChoice={(choice) => set({ [field]: choice })}
            />
          ))}
          <Form.Group controlId="field-income">
            <Form.Label>Sales nothing else decides</Form.Label>
            <Form.Select
              size="sm"
              value={answers.income ?? ''}
              onChange={(event) =>
                set({ income: event.target.value === '' ? null : (Number(event.target.value) as AccountId) })
              }
            >
              <option value="">left to these books</option>
              {choicesFor('income', page.accounts).map((account) => (
                <option key={account.id} value={account.id}>
                  {account.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <Form.Group controlId="field-tax">
            <Form.Label>Their tax code</Form.Label>
            <Form.Select
              size="sm"
              value={answers.taxCode ?? ''}
              onChange={(event) => set({ taxCode: event.target.value === '' ? null : Number(event.target.value) })}
            >
              <option value="">left to these books</option>
              {page.taxCodes.map((tax) => (
                <option key={tax.id} value={tax.id}>
                  {tax.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        </div>
      </section>
    </>
  );
}
