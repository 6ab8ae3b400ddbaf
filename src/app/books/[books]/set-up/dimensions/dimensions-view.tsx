'use client';

import { useRouter } from 'next/navigation';
import { useState, type FormEvent } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { DimensionView } from '@/books/dimensions/dimensions';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Empty } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { addDimensionNow, removeDimensionNow, requireDimensionNow, setDimensionValueNow } from '../../actions';

interface Props {
  readonly dimensions: readonly DimensionView[];
  readonly accounts: readonly { readonly id: number; readonly name: string }[];
}

/** The axes that income and costs are looked at by, their values, and the accounts whose lines must say them. */
export function DimensionsView({ dimensions, accounts }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [name, setName] = useState('');
  const [values, setValues] = useState('');
  const told = (answer: ActionAnswer<unknown>) => {
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const add = async (event: FormEvent) => {
    event.preventDefault();
    const list = values
      .split(',')
      .map((value) => value.trim())
      .filter(Boolean);
    const answer = await addDimensionNow(id, { name, values: list });
    told(answer);
    if (answer.ok) {
      setName('');
      setValues('');
    }
  };
  return (
    <main>
      <div className="page-head">
        <h1>Dimensions</h1>
        <span className="soft small">what income and costs are looked at by: fund, site, department, project</span>
      </div>
      <Form className="box d-flex gap-3 align-items-end flex-wrap" onSubmit={(event) => void add(event)}>
        <Form.Group controlId="dimension-name">
          <Form.Label>New dimension</Form.Label>
          <Form.Control size="sm" value={name} placeholder="Site" onChange={(event) => setName(event.target.value)} />
        </Form.Group>
        <Form.Group controlId="dimension-values" className="flex-grow-1">
          <Form.Label>Its values, parted by commas</Form.Label>
          <Form.Control
            size="sm"
            value={values}
            placeholder="Pier, Workshop"
            onChange={(event) => setValues(event.target.value)}
          />
        </Form.Group>
        <Button type="submit" variant="primary" size="sm" disabled={name.trim() === ''}>
          Add
        </Button>
      </Form>
      {dimensions.length === 0 ? (
        <Empty title="No dimensions yet">
          <p>
            Without one, accounts alone tell income apart. Add the first above; map rules and defaults then give it to
            receipts.
          </p>
        </Empty>
      ) : null}
      {dimensions.map((dimension) => (
        <Dimension key={dimension.id} dimension={dimension} accounts={accounts} onDone={told} />
      ))}
    </main>
  );
}

function Dimension({
  dimension,
  accounts,
  onDone,
}: {
  dimension: DimensionView;
  accounts: Props['accounts'];
  onDone: (answer: ActionAnswer<unknown>) => void;
}) {
  const { id } = useBooks();
  const [value, setValue] = useState('');
  const set = (name: string, active: boolean) =>
    void setDimensionValueNow(id, { dimension: dimension.id, name, active }).then(onDone);
  const require = (account: number, required: boolean) =>
    void requireDimensionNow(id, { dimension: dimension.id, account, required }).then(onDone);
  const free = accounts.filter((account) => !dimension.requiredOn.some((on) => on === account.id));
  return (
    <section className="box" aria-label={dimension.name}>
      <div className="d-flex justify-content-between align-items-baseline">
        <h2>{dimension.name}</h2>
        <Button variant="link" size="sm" onClick={() => void removeDimensionNow(id, { id: dimension.id }).then(onDone)}>
          Remove
        </Button>
      </div>
      <dl className="facts">
        <dt>Values</dt>
        <dd className="d-flex gap-2 flex-wrap align-items-center">
          {dimension.values.map((one) => (
            <Button
              key={one.id}
              variant="plain"
              size="sm"
              className={one.active ? '' : 'soft text-decoration-line-through'}
              title={one.active ? 'Switch off: no longer offered, stays where it is booked' : 'Offer it again'}
              aria-pressed={one.active === 1}
              onClick={() => set(one.name, one.active === 0)}
            >
              {one.name}
            </Button>
          ))}
          <Form
            className="d-flex gap-2"
            onSubmit={(event) => {
              event.preventDefault();
              set(value, true);
              setValue('');
            }}
          >
            <Form.Control
              size="sm"
              aria-label={`New value of ${dimension.name}`}
              value={value}
              onChange={(event) => setValue(event.target.value)}
            />
            <Button type="submit" variant="plain" size="sm" disabled={value.trim() === ''}>
              Add
            </Button>
          </Form>
        </dd>
        <dt>Must be said on</dt>
        <dd className="d-flex gap-2 flex-wrap align-items-center">
          {dimension.requiredOn.map((account) => (
            <Button
              key={account}
              variant="plain"
              size="sm"
              title="No longer ask for it here"
              onClick={() => require(account, false)}
            >
              {accounts.find((one) => one.id === account)?.name} ✕
            </Button>
          ))}
          <Form.Select
            size="sm"
            style={{ width: 'auto' }}
            aria-label={`Ask for ${dimension.name} on an account`}
            value=""
            onChange={(event) => require(Number(event.target.value), true)}
          >
            <option value="">Ask for it on…</option>
            {free.map((account) => (
              <option key={account.id} value={account.id}>
                {account.name}
              </option>
            ))}
          </Form.Select>
        </dd>
      </dl>
    </section>
  );
}
