'use client';

import { useState, type ReactNode } from 'react';
import { Controller, type UseFormReturn } from 'react-hook-form';
import Form from 'react-bootstrap/Form';
import type { BillLists } from '@/books/billing/bill-lists';
import { addDays, formatDate, parsePlainDate } from '@/core/calendar';
import { formatPercent } from '@/core/money';
import { useBooks } from '@/ui/frame/books-context';
import { payerTermsNow } from '../actions';
import { PayerSelect } from '../payers/payer-select';
import type { BillFaults, BillFields } from './bill-fields';
import { LineRows } from './line-rows';

interface Props {
  readonly form: UseFormReturn<BillFields>;
  readonly lists: BillLists;
  /** What is wrong, once it was sent off; empty before. */
  readonly faults: BillFaults;
  /** An issued invoice keeps its payer and its day. */
  readonly fixed?: boolean;
  /** What the day of issue is called where it is none. */
  readonly dayLabel?: string;
  readonly children?: ReactNode;
}

/** What the terms come to for a day of issue, in words. */
function termsWords(lists: BillLists, terms: string, issued: string): string {
  const chosen = lists.terms.find(({ id }) => String(id) === terms);
  const day = parsePlainDate(issued);
  if (!chosen || !day) return 'due on the day it is issued';
  const due = `due ${formatDate(addDays(day, chosen.due_days))}`;
  if (chosen.discount_rate === 0) return due;
  return `${due}; ${formatPercent(chosen.discount_rate)} off until ${formatDate(addDays(day, chosen.discount_days))}`;
}

/** Who owes it, when, and for what: the part that a new invoice, a correction and a plan have in common. */
export function BillForm({ form, lists, faults, fixed = false, dayLabel = 'Issued', children }: Props) {
  const { id } = useBooks();
  const [terms, issued] = [form.watch('terms'), form.watch('issued')];
  const [noted, setNoted] = useState(form.getValues('privateNote') !== '' || form.getValues('note') !== '');
  return (
    <>
      <div className="bill-head">
        <Form.Group>
          <Form.Label htmlFor="bill-payer">Payer</Form.Label>
          <Controller
            control={form.control}
            name="payer"
            render={({ field }) => (
              <PayerSelect
                id="bill-payer"
                autoFocus={!fixed}
                disabled={fixed}
                invalid={faults.payer !== undefined}
                value={field.value}
                onChange={(payer) => {
                  field.onChange(payer);
                  if (!payer) return;
                  void payerTermsNow(id, payer.id).then((own) =>
                    form.setValue('terms', own === null ? '' : String(own)),
                  );
                }}
              />
            )}
          />
          {faults.payer ? <div className="fault">{faults.payer}</div> : null}
        </Form.Group>
        <Form.Group controlId="bill-issued">
          <Form.Label>{dayLabel}</Form.Label>
          <Form.Control
            type="date"
            size="sm"
            readOnly={fixed}
            isInvalid={!!faults.issued}
            {...form.register('issued')}
          />
        </Form.Group>
        <Form.Group controlId="bill-terms">
          <Form.Label>Terms</Form.Label>
          <Form.Select size="sm" {...form.register('terms')}>
            <option value="">at once</option>
            {lists.terms.map(({ id: of, name }) => (
              <option key={of} value={of}>
                {name}
              </option>
            ))}
          </Form.Select>
          <Form.Text>{termsWords(lists, terms, issued)}</Form.Text>
        </Form.Group>
        <Form.Group controlId="bill-reference">
          <Form.Label>Their reference</Form.Label>
          <Form.Control size="sm" maxLength={60} {...form.register('reference')} />
        </Form.Group>
        {children}
      </div>
      <LineRows form={form} lists={lists} faults={faults} />
      <details className="bill-notes" open={noted} onToggle={(event) => setNoted(event.currentTarget.open)}>
        <summary>Notes</summary>
        <div className="two">
          <Form.Group controlId="bill-note">
            <Form.Label>Printed below the lines</Form.Label>
            <Form.Control as="textarea" rows={3} maxLength={2000} {...form.register('note')} />
          </Form.Group>
          <Form.Group controlId="bill-private">
            <Form.Label>For these books only</Form.Label>
            <Form.Control as="textarea" rows={3} maxLength={2000} {...form.register('privateNote')} />
          </Form.Group>
        </div>
      </details>
    </>
  );
}
