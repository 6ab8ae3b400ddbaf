'use client';

import { CHANNEL_ACCOUNTS } from '@/books/channels/channel-settings';
import { choicesFor } from '@/books/map/account-choices';
import type { AccountId } from '@/core/ledger';
import { freeCode } from './answers';
import { AccountField, ChoiceField, TextField } from './fields';
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
export function AccountsStep(props: StepProps) {
  const { answers, set } = props;
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
      <BookedFields {...props} />
    </>
  );
}

/** Where everything of a channel but what it holds is booked. */
export function BookedFields({ page, answers, set }: StepProps) {
  const asked = CHANNEL_ACCOUNTS.filter(({ field }) => field !== 'fx' || answers.currency !== page.currency);
  return (
    <section>
      <h2>Where the rest is booked</h2>
      <div className="field-grid">
        {asked.map(({ field, role, class: of, words, required }) => (
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
        <ChoiceField
          label="Sales nothing else decides"
          value={answers.income ?? null}
          choices={choicesFor('income', page.accounts)}
          none="left to these books"
          onChoice={(income) => set({ income: income as AccountId | null })}
        />
        <ChoiceField
          label="Their tax code"
          value={answers.taxCode ?? null}
          choices={page.taxCodes}
          none="left to these books"
          onChoice={(taxCode) => set({ taxCode })}
        />
      </div>
    </section>
  );
}
