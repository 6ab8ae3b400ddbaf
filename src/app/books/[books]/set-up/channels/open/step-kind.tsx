'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { ChannelDraft } from '@/books/channels/channel-settings';
import { CHANNEL_KINDS } from '@/books/store/schema/channels';
import type { AccountId } from '@/core/ledger';
import { KIND_WORDS } from '../kind-words';
import { banksOf, freeCode } from './answers';
import { AccountField, AmountField, ChoiceField, TextField } from './fields';
import type { StepProps } from './open-channel';

/** What the channel is, where it pays out to, and what it takes. */
export function KindStep(props: StepProps) {
  const { answers, set } = props;
  return (
    <>
      <section>
        <h2>What kind of channel it is</h2>
        {CHANNEL_KINDS.map((kind) => (
          <Form.Check
            key={kind}
            type="radio"
            id={`kind-${kind}`}
            name="kind"
            label={
              <>
                {KIND_WORDS[kind].name} <span className="soft small">{KIND_WORDS[kind].about}</span>
              </>
            }
            checked={answers.kind === kind}
            onChange={() => set({ kind })}
          />
        ))}
      </section>
      <BankFields {...props} />
    </>
  );
}

/** Its name, currency and bank account, and the fee that was agreed. */
export function BankFields({ page, answers, set }: StepProps) {
  const banks = banksOf(page);
  const foreign = answers.currency !== page.currency;
  const named = (name: string) => {
    const { clearing } = answers;
    const follows = clearing && (clearing.name === '' || clearing.name === `${answers.name} clearing`);
    set({ name, ...(follows && { clearing: { ...clearing, name: name.trim() ? `${name.trim()} clearing` : '' } }) });
  };
  return (
    <section>
      <div className="field-grid">
        <TextField label="Name" hint="Pier till" value={answers.name ?? ''} onText={named} />
        {answers.clearing ? (
          <TextField
            label="Currency"
            value={answers.currency ?? ''}
            onText={(text) => set({ currency: text.toUpperCase().slice(0, 3) })}
          />
        ) : null}
        <ChoiceField
          label="Pays out to"
          value={answers.bank ?? null}
          choices={banks}
          none={null}
          onChoice={(bank) => set({ bank: bank as AccountId })}
        />
        <Form.Group controlId="field-days">
          <Form.Label>Working days to the bank</Form.Label>
          <Form.Control
            size="sm"
            type="number"
            min={0}
            max={60}
            value={answers.payoutDays ?? 2}
            onChange={(event) => set({ payoutDays: Math.max(0, Math.min(60, Number(event.target.value))) })}
          />
        </Form.Group>
        <AmountField
          label="Agreed fee, %"
          currency="EUR"
          value={(answers.feeRate ?? 0) as never}
          onAmount={(feeRate) => set({ feeRate })}
        />
        <AmountField
          label="and a receipt"
          currency={page.currency}
          value={answers.feeFixed!}
          onAmount={(feeFixed) => set({ feeFixed })}
        />
      </div>
      {foreign && answers.currency?.length === 3 ? (
        <p className="soft small mt-2 mb-0">
          It holds {answers.currency} and pays out {page.currency}: receipts are booked at the rate of their day
          (Set-up, Rates), and what the conversion gains or loses goes to the currency difference.
        </p>
      ) : null}
    </section>
  );
}

/** The places of a till, each with its own cash box. */
export function SitesStep({ page, answers, set }: StepProps) {
  const sites = answers.sites ?? [];
  const boxes = page.accounts.filter((account) => account.role === 'cash_on_hand');
  type Site = NonNullable<ChannelDraft['sites']>[number];
  const change = (at: number, more: Partial<Site>) =>
    set({ sites: sites.map((site, index) => (index === at ? { ...site, ...more } : site)) });
  const add = () => {
    const code = freeCode(page, 1030 + 10 * sites.length);
    const site: Site = {
      code: `S${sites.length + 1}`,
      name: '',
      cash: { make: { code, name: 'Cash box' } },
      bank: null,
    };
    set({ sites: [...sites, site] });
  };
  return (
    <section>
      <h2>Where it takes money</h2>
      <p className="soft">
        {answers.kind === 'till'
          ? 'A till has a site at least: its name stands in the export, and cash taken there lies in its own box.'
          : 'Only where receipts say at which place they were taken; a channel without sites is one place.'}
      </p>
      {sites.map((site, index) => (
        <div key={index} className="field-grid mb-2">
          <TextField label={`Code of site ${index + 1}`} value={site.code} onText={(code) => change(index, { code })} />
          <TextField
            label={`Name of site ${index + 1}`}
            hint="Tea hatch"
            value={site.name}
            onText={(name) => change(index, { name })}
          />
          <AccountField
            label={`Cash of site ${index + 1}`}
            value={site.cash}
            choices={boxes}
            make={{ code: freeCode(page, 1030 + 10 * index), name: `Cash box ${site.name}`.trim() }}
            none="takes no cash"
            onChoice={(cash) => change(index, { cash })}
          />
          <ChoiceField
            label={`Bank of site ${index + 1}`}
            value={site.bank}
            choices={banksOf(page)}
            none="as the channel"
            onChoice={(bank) => change(index, { bank: bank as AccountId | null })}
          />
          <div className="align-self-end">
            <Button size="sm" variant="plain" onClick={() => set({ sites: sites.filter((_, at) => at !== index) })}>
              Take out
            </Button>
          </div>
        </div>
      ))}
      <Button size="sm" variant="plain" onClick={add}>
        Add a site
      </Button>
    </section>
  );
}
