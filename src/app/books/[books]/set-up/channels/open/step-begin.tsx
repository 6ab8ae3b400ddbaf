'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { CHANNEL_ACCOUNTS, type AccountChoiceInput, type ChannelDraft } from '@/books/channels/channel-settings';
import { formatDate, type PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { formatAmount, sum, type Minor } from '@/core/money';
import { useBooks } from '@/ui/frame/books-context';
import { Notice } from '@/ui/parts/notice';
import { KIND_WORDS } from '../kind-words';
import { STEP_WORDS, type Step } from './answers';
import { AmountField, RadioField, TextField } from './fields';
import type { StepProps } from './open-channel';
import { HistoryFields } from './step-posting';

/** From which day on receipts are taken in, and what becomes of payouts that are on their way then. */
export function CutOverStep({ page, answers, set }: StepProps) {
  const { today } = useBooks();
  const outstanding = answers.outstanding ?? [];
  type Payout = (typeof outstanding)[number];
  const change = (at: number, more: Partial<Payout>) =>
    set({ outstanding: outstanding.map((payout, index) => (index === at ? { ...payout, ...more } : payout)) });
  const add = () =>
    set({ outstanding: [...outstanding, { id: '', date: answers.historyFrom ?? today, net: 0 as Minor }] });
  return (
    <>
      <HistoryFields page={page} answers={answers} set={set} />
      <section>
        <h2>Payouts on their way that day</h2>
        <p className="soft">
          They left the channel before its history begins and reach the bank after. List them, so that they do not turn
          up as unknown deposits.
        </p>
        {outstanding.map((payout, index) => (
          <div key={index} className="field-grid mb-2">
            <TextField label={`Id of payout ${index + 1}`} value={payout.id} onText={(id) => change(index, { id })} />
            <Form.Group controlId={`field-left-${index}`}>
              <Form.Label>Left on</Form.Label>
              <Form.Control
                size="sm"
                type="date"
                value={payout.date}
                onChange={(event) => change(index, { date: event.target.value as PlainDate })}
              />
            </Form.Group>
            <AmountField
              label={`Net of payout ${index + 1}`}
              currency={page.currency}
              value={payout.net}
              onAmount={(net) => change(index, { net })}
            />
            <div className="align-self-end">
              <Button
                size="sm"
                variant="plain"
                onClick={() => set({ outstanding: outstanding.filter((_, at) => at !== index) })}
              >
                Take out
              </Button>
            </div>
          </div>
        ))}
        <Button size="sm" variant="plain" onClick={add}>
          Add a payout
        </Button>
        {outstanding.length > 0 ? (
          <div className="mt-3">
            <Notice kind="waits">
              {formatAmount(sum(outstanding.map((payout) => payout.net)), page.currency)} is on its way. Choose what
              becomes of it:
            </Notice>
            <RadioField
              name="cut"
              value={answers.cutOver}
              choices={[
                ['wait', 'wait: it was booked before these books, and its deposits are explained by hand'],
                ['opening', 'begin with it as a balance in transit, matched as it lands'],
              ]}
              onChoice={(cutOver) => set({ cutOver })}
            />
            {answers.cutOver === 'opening' ? (
              <Form.Group controlId="field-against" className="mt-2">
                <Form.Label>The other side is booked to</Form.Label>
                <Form.Select
                  size="sm"
                  style={{ width: 'auto' }}
                  value={answers.openingAgainst ?? ''}
                  onChange={(event) => set({ openingAgainst: Number(event.target.value) as AccountId })}
                >
                  {page.accounts
                    .filter((account) => account.class === 'equity')
                    .map((account) => (
                      <option key={account.id} value={account.id}>
                        {account.name}
                      </option>
                    ))}
                </Form.Select>
              </Form.Group>
            ) : null}
          </div>
        ) : null}
      </section>
    </>
  );
}

interface LookProps extends StepProps {
  readonly lacks: readonly { readonly step: Step; readonly what: string }[];
  readonly onStep: (step: Step) => void;
}

/** All answers once more, what will be made, and what is missing. */
export function LookStep({ page, answers, lacks, onStep }: LookProps) {
  const name = (choice: AccountChoiceInput | null | undefined) =>
    !choice
      ? 'none'
      : 'make' in choice
        ? `new: ${choice.make.code} ${choice.make.name}`
        : (page.accounts.find((a) => a.id === choice.use)?.name ?? '?');
  const facts: [string, string][] = [
    ['Channel', `${answers.name || 'no name'}, ${KIND_WORDS[answers.kind!].name}, ${answers.currency}`],
    ['Held in', `new: ${answers.clearing?.code} ${answers.clearing?.name}`],
    [
      'Pays out to',
      `${page.accounts.find((a) => a.id === answers.bank)?.name ?? 'no bank account'}, ${answers.payoutDays} working days later`,
    ],
    ['Agreed fee', `${(answers.feeRate ?? 0) / 100} % + ${formatAmount(answers.feeFixed!, page.currency)} a receipt`],
    ...CHANNEL_ACCOUNTS.filter(({ field }) => answers[field]).map(({ field, words }): [string, string] => [
      words,
      name(answers[field]),
    ]),
    ['Sites', sitesWords(answers, name)],
    [
      'Posts',
      `${answers.mode === 'each' ? 'each receipt' : 'one entry a day and site'}, ${answers.postsItself ? 'by itself' : 'after a look'}`,
    ],
    ['History', answers.historyFrom ? `from ${formatDate(answers.historyFrom)}` : 'all that its exports hold'],
    ...(answers.outstanding?.length
      ? [
          [
            'On their way',
            `${answers.outstanding.length} payouts, ${answers.cutOver === 'wait' ? 'left outside these books' : 'as a balance in transit'}`,
          ] as [string, string],
        ]
      : []),
  ];
  return (
    <>
      {lacks.length > 0 ? (
        <section>
          {lacks.map(({ step, what }) => (
            <Notice key={what} kind="waits">
              {what}{' '}
              <Button variant="link" size="sm" className="p-0" onClick={() => onStep(step)}>
                {STEP_WORDS[step]}
              </Button>
            </Notice>
          ))}
        </section>
      ) : null}
      <section>
        <dl className="facts">
          {facts.map(([term, what]) => (
            <div key={term} style={{ display: 'contents' }}>
              <dt>{term}</dt>
              <dd>{what}</dd>
            </div>
          ))}
        </dl>
      </section>
    </>
  );
}

function sitesWords(answers: ChannelDraft, name: (choice: AccountChoiceInput | null | undefined) => string): string {
  if (!answers.sites?.length) return 'none';
  return answers.sites
    .map((site) => `${site.name || site.code}${site.cash ? `, cash in ${name(site.cash)}` : ''}`)
    .join('; ');
}
