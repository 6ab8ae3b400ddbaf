'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { BillLists } from '@/books/billing/bill-lists';
import type { ComingRun } from '@/books/billing/plan-runs';
import type { PlanInput } from '@/books/billing/plans';
import { formatDate, parsePlainDate } from '@/core/calendar';
import { isLastOfMonth } from '@/core/receivables';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import { BillForm } from '../../bill/bill-form';
import { readBill, type BillFields } from '../../bill/bill-fields';
import { comingNow, removePlanNow, savePlanNow, switchPlanNow } from '../actions';
import { readPlan, type PlanFields } from './plan-fields';

interface Props {
  readonly plan: number | null;
  readonly active: boolean;
  readonly bill: BillFields;
  readonly fields: PlanFields;
  readonly lists: BillLists;
  readonly runs: readonly ComingRun[];
}

const REST = 500;

/** A plan: its bill, when it comes again, and the twelve runs that follow from both. */
export function PlanEditor({ plan, active, bill: billFields, fields, lists, runs: first }: Props) {
  const { id, today } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const bills = useForm<BillFields>({ defaultValues: billFields });
  const form = useForm<PlanFields>({ defaultValues: fields });
  const prices = useFieldArray({ control: form.control, name: 'prices' });
  const [sent, setSent] = useState(false);
  const [runs, setRuns] = useState<readonly ComingRun[]>(first);
  const { bill, faults } = readBill(bills.watch(), lists);
  const read = readPlan(plan, form.watch(), bill, lists.currency);
  const whole = Object.keys(faults).length === 0 && 'plan' in read;
  const key = whole ? JSON.stringify(read.plan) : '';
  useEffect(() => {
    let wanted = true;
    const timer = setTimeout(() => {
      if (key === '') return;
      const input = JSON.parse(key) as PlanInput;
      void comingNow(id, input, input.recurrence.starts).then((got) => wanted && setRuns(got));
    }, REST);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [id, key]);
  const save = async (): Promise<number | null> => {
    setSent(true);
    if (!whole) return null;
    const answer = await savePlanNow(id, read.plan);
    if (!answer.ok) {
      toasts.refused(answer.what, answer.next);
      return null;
    }
    if (answer.change) toasts.changed(answer.change);
    return answer.value.plan;
  };
  const keep = async () => {
    const kept = await save();
    if (kept !== null) router.push(`/books/${id}/owed/plans/${kept}`);
  };
  const turn = async (on: boolean) => {
    const kept = await save();
    if (kept === null) return;
    const answer = await switchPlanNow(id, { plan: kept, on, billsFrom: null });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/owed/plans`);
  };
  const remove = async () => {
    const answer = await removePlanNow(id, plan!);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/owed/plans`);
  };
  const starts = parsePlainDate(bills.watch('issued'));
  const due = runs.filter((run) => run.from <= today && run.invoice === null).length;
  const fault = sent ? (Object.values(faults)[0] ?? ('fault' in read ? read.fault : '')) : '';
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void keep();
      }}
    >
      <div className="bill-head">
        <Form.Group controlId="plan-name">
          <Form.Label>Name</Form.Label>
          <Form.Control size="sm" maxLength={120} {...form.register('name')} />
        </Form.Group>
        <Form.Group controlId="plan-every">
          <Form.Label>Bills</Form.Label>
          <Form.Select size="sm" {...form.register('every')}>
            <option value="month">each month</option>
            <option value="quarter">each quarter</option>
            <option value="year">each year</option>
          </Form.Select>
          {starts && isLastOfMonth(starts) ? (
            <Form.Check id="plan-last" label="on the last day of the month" {...form.register('lastDay')} />
          ) : null}
        </Form.Group>
        <Form.Group controlId="plan-ends">
          <Form.Label>Ends on</Form.Label>
          <Form.Control size="sm" type="date" {...form.register('ends')} />
          <Form.Check id="plan-prorates" label="the last period by its days" {...form.register('prorates')} />
        </Form.Group>
        <Form.Group controlId="plan-paused">
          <Form.Label>Paused from, until</Form.Label>
          <Form.Control size="sm" type="date" {...form.register('pausedFrom')} />
          <Form.Control
            size="sm"
            type="date"
            aria-label="Paused until"
            className="mt-1"
            {...form.register('resumes')}
          />
        </Form.Group>
      </div>
      <BillForm form={bills} lists={lists} faults={sent ? faults : {}} dayLabel="First period begins" />
      <div className="split mt-3">
        <div>
          <h2>Price changes</h2>
          {prices.fields.map((row, index) => (
            <div key={row.id} className="d-flex gap-2 mb-1">
              <Form.Control
                size="sm"
                style={{ width: 70 }}
                placeholder="line"
                aria-label={`Line of price change ${index + 1}`}
                {...form.register(`prices.${index}.line`)}
              />
              <Form.Control
                size="sm"
                type="date"
                style={{ width: 150 }}
                aria-label={`From of price change ${index + 1}`}
                {...form.register(`prices.${index}.from`)}
              />
              <Form.Control
                size="sm"
                className="num"
                style={{ width: 110 }}
                placeholder="net price"
                aria-label={`Price of price change ${index + 1}`}
                {...form.register(`prices.${index}.price`)}
              />
              <Button
                variant="link"
                size="sm"
                onClick={() => prices.remove(index)}
                aria-label={`Take price change ${index + 1} out`}
              >
                Out
              </Button>
            </div>
          ))}
          <Button
            variant="link"
            size="sm"
            className="p-0 mb-2"
            onClick={() => prices.append({ line: '1', from: '', price: '' })}
          >
            Another price from a day
          </Button>
          <Form.Check
            id="plan-sends"
            className="mb-2"
            label="Mail each invoice once it is issued"
            {...form.register('sends')}
          />
          {fault ? <Notice kind="refused">{fault}</Notice> : null}
          <div className="d-flex gap-2">
            {active ? (
              <>
                <Button type="submit" variant="primary">
                  Keep
                </Button>
                <Button variant="plain" onClick={() => void turn(false)}>
                  Switch off
                </Button>
              </>
            ) : (
              <>
                <Button variant="primary" disabled={!whole || runs.length === 0} onClick={() => void turn(true)}>
                  Switch on
                </Button>
                <Button type="submit" variant="plain">
                  Keep, still off
                </Button>
              </>
            )}
            {plan !== null ? (
              <Button variant="plain" onClick={() => void remove()}>
                Remove
              </Button>
            ) : null}
          </div>
          {due > 0 && !active ? (
            <p className="small soft mt-2">
              Switched on, it bills {due} of these at once: they begin today or earlier.
            </p>
          ) : null}
        </div>
        <aside className="panel" aria-label="Coming runs">
          <section>
            <h2>Coming twelve runs</h2>
            {runs.length === 0 ? <p className="soft mb-0">Once it is written, they stand here.</p> : null}
            <table className="entry">
              <tbody>
                {runs.map((run) => (
                  <tr key={run.from}>
                    <td>
                      {formatDate(run.from)} <span className="soft">to {formatDate(run.to)}</span>
                      {run.days < run.of ? (
                        <span className="soft">
                          , {run.days} of {run.of} days
                        </span>
                      ) : null}
                    </td>
                    <td>
                      {run.invoice ? (
                        <Link href={`/books/${id}/owed?invoice=${run.invoice.id}`}>{run.invoice.number}</Link>
                      ) : null}
                    </td>
                    <td className="num">{money(run.gross)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </aside>
      </div>
    </Form>
  );
}
