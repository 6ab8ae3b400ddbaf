'use client';

import Link from 'next/link';
import { useState } from 'react';
import { useForm, type UseFormRegister } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { FallenThrough } from '@/books/map/layers';
import { choicesFor } from '@/books/map/account-choices';
import type { MapPage, RuleRow } from '@/books/map/map-page';
import type { Trial as TrialReport } from '@/books/map/try-rule';
import { useBooks } from '@/ui/frame/books-context';
import { JobProgress, useJob } from '@/ui/parts/job';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { findPayersNow, removeRuleNow, saveRuleNow } from '../../actions';
import { AnyOf } from './any-of';
import { emptyRule, fieldsOfRule, ruleOfFields, type RuleFields } from './rule-fields';

interface Props {
  readonly map: MapPage;
  readonly rule: RuleRow | null;
  /** What falls through that a new rule is to catch. */
  readonly seed: FallenThrough | null;
  readonly onDone: (answer: ActionAnswer<unknown>) => void;
  readonly onTried: (trial: TrialReport | null) => void;
}

/** One rule: when it applies, where it lands, and a trial on the past before it is switched on. */
export function RuleForm({ map, rule, seed, onDone, onTried }: Props) {
  const { id, currency } = useBooks();
  const job = useJob();
  const [trouble, setTrouble] = useState('');
  const { register, control, handleSubmit } = useForm<RuleFields>({
    defaultValues: rule ? fieldsOfRule(rule, map, currency) : emptyRule(seed, map),
  });
  const read = (fields: RuleFields) => {
    const made = ruleOfFields(fields, currency);
    setTrouble('trouble' in made ? made.trouble : '');
    return 'trouble' in made ? null : { id: rule?.id ?? null, ...made };
  };
  const tryIt = async (fields: RuleFields) => {
    const made = read(fields);
    if (!made) return;
    onTried(null);
    const answer = await job.run<TrialReport>({ kind: 'try-rule', input: made });
    if (answer.ok) onTried(answer.value);
    else setTrouble(`${answer.what} ${answer.next}`);
  };
  const save = async (fields: RuleFields) => {
    const made = read(fields);
    if (!made) return;
    const answer = await saveRuleNow(id, made);
    if (answer.ok) onDone(answer);
    else setTrouble(`${answer.what} ${answer.next}`);
  };
  return (
    <Form className="panel rule-form" noValidate aria-label={rule ? `Rule ${rule.name}` : 'New rule'}>
      <header>
        <Form.Control size="sm" aria-label="Name of the rule" placeholder="Name of the rule" {...register('name')} />
        <Form.Check type="switch" id="rule-active" label="On" {...register('active')} />
      </header>
      <section>
        <h2>When all of this holds</h2>
        <div className="field-grid">
          <AnyOf label="Channel" name="channels" choices={map.channels} control={control} />
          <AnyOf label="Site" name="sites" choices={map.sites} control={control} />
          <AnyOf label="Item" name="items" choices={map.items} control={control} />
          <AnyOf
            label="Payer"
            name="payers"
            find={(text) => (text.trim().length < 2 ? Promise.resolve([]) : findPayersNow(id, text))}
            control={control}
          />
          <Text label="Text has" name="text" register={register} />
          <Text label="Paid by" name="methods" hint="card, cash" register={register} />
          <Text label="From amount" name="amountFrom" register={register} />
          <Text label="Up to amount" name="amountTo" register={register} />
          <Text label="Sent to country" name="countries" hint="IE, GB" register={register} />
          <Text label="Region" name="regions" register={register} />
          <Text label="Currency" name="currencies" register={register} />
          <Text label="Fund" name="funds" register={register} />
        </div>
      </section>
      <section>
        <h2>Then it lands here</h2>
        <div className="field-grid">
          <Choice
            label="Income"
            name="income"
            choices={choicesFor('income', map.accounts)}
            otherwise="not decided here"
            register={register}
          />
          <Choice
            label="Tax code"
            name="taxCode"
            choices={map.taxCodes}
            otherwise="not decided here"
            register={register}
          />
          <Choice
            label="Deposited in"
            name="deposit"
            choices={choicesFor('deposit', map.accounts)}
            otherwise="not decided here"
            register={register}
          />
          <Choice
            label="Fee to"
            name="fees"
            choices={choicesFor('fees', map.accounts)}
            otherwise="not decided here"
            register={register}
          />
          {map.dimensions.map((dimension) => (
            <Choice
              key={dimension.id}
              label={dimension.name}
              name={`dimensions.${dimension.id}`}
              choices={dimension.values.filter((value) => value.active === 1)}
              otherwise="not decided here"
              register={register}
            />
          ))}
        </div>
      </section>
      {trouble ? (
        <section>
          <Notice kind="refused">{trouble}</Notice>
        </section>
      ) : null}
      <JobProgress job={job} />
      <div className="acts">
        <Button variant="primary" onClick={(event) => void handleSubmit(save)(event)}>
          {rule ? 'Save the rule' : 'Make the rule'}
        </Button>
        <Button variant="plain" disabled={job.running !== null} onClick={(event) => void handleSubmit(tryIt)(event)}>
          Try it on the past
        </Button>
        {rule ? (
          <Button variant="plain" onClick={() => void removeRuleNow(id, { id: rule.id }).then(onDone)}>
            Remove
          </Button>
        ) : null}
        <Link className="btn btn-link" href={`/books/${id}/set-up/map`}>
          Leave it
        </Link>
      </div>
    </Form>
  );
}

interface ChoiceProps {
  readonly label: string;
  readonly name: keyof RuleFields | `dimensions.${number}`;
  readonly choices: readonly { readonly id: number; readonly name: string }[];
  readonly otherwise: string;
  readonly register: UseFormRegister<RuleFields>;
}

function Choice({ label, name, choices, otherwise, register }: ChoiceProps) {
  return (
    <Form.Group controlId={`rule-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Select size="sm" {...register(name)}>
        <option value="">{otherwise}</option>
        {choices.map((choice) => (
          <option key={choice.id} value={choice.id}>
            {choice.name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

interface TextProps {
  readonly label: string;
  readonly name: keyof RuleFields;
  readonly hint?: string;
  readonly register: UseFormRegister<RuleFields>;
}

function Text({ label, name, hint, register }: TextProps) {
  return (
    <Form.Group controlId={`rule-${name}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control size="sm" placeholder={hint} autoComplete="off" {...register(name)} />
    </Form.Group>
  );
}
