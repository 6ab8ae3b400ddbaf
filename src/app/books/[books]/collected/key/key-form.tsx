'use client';

import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { Controller, useFieldArray, useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Keyed } from '@/books/by-hand/key-receipt';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { EntryPreview } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { PayerSelect } from '../../owed/payers/payer-select';
import { keyNow, previewKey } from './actions';
import { besideFund, readKeyed, type KeyFields } from './key-fields';
import type { KeyLists } from './key-lists';

const REST = 400;

/** One form for money that came at once: a sale with its items, or a gift with its fund. Enter keys it and begins the next. */
export function KeyForm({ gift, lists }: { gift: boolean; lists: KeyLists }) {
  const { id, today } = useBooks();
  const toasts = useToasts();
  const empty: KeyFields = {
    place: '0',
    date: today,
    payer: null,
    reference: '',
    fund: '',
    note: '',
    dimensions: {},
    lines: [{ item: '', description: '', amount: '' }],
  };
  const form = useForm<KeyFields>({ defaultValues: empty });
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'lines' });
  const [sent, setSent] = useState(false);
  const [shown, setShown] = useState<ActionAnswer<Keyed> | null>(null);
  const [last, setLast] = useState<{ reference: string; receipt: number } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const read = readKeyed(form.watch(), lists, gift);
  const key = 'keyed' in read ? JSON.stringify(read.keyed) : '';
  useEffect(() => {
    let wanted = true;
    const timer = setTimeout(() => {
      if (key === '') setShown(null);
      else void previewKey(id, JSON.parse(key)).then((got) => wanted && setShown(got));
    }, REST);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [id, key]);
  const keyIt = async () => {
    setSent(true);
    if (!('keyed' in read)) return;
    const answer = await keyNow(id, read.keyed);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    const { receipt, reference } = answer.value;
    const attached = file.current?.files?.[0];
    if (attached) {
      const headers = { 'x-file-name': encodeURIComponent(attached.name) };
      const response = await fetch(`/api/books/${id}/attachments/receipt/${receipt}`, {
        method: 'POST',
        headers,
        body: attached,
      });
      const told = (await response.json()) as ActionAnswer<unknown>;
      if (!told.ok) toasts.refused(told.what, told.next);
      if (file.current) file.current.value = '';
    }
    const { place, date } = form.getValues();
    form.reset({ ...empty, place, date });
    setSent(false);
    setLast({ receipt, reference });
    form.setFocus('lines.0.item');
  };
  const fault = sent && 'fault' in read ? read : null;
  return (
    <Form
      className="split"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void keyIt();
      }}
    >
      <div>
        <div className="bill-head">
          <Form.Group controlId="key-payer-group">
            <Form.Label htmlFor="key-payer">
              {gift ? 'Donor, nobody where they want no name' : 'Payer, if known'}
            </Form.Label>
            <Controller
              control={form.control}
              name="payer"
              render={({ field }) => (
                <PayerSelect id="key-payer" clearable value={field.value} onChange={field.onChange} />
              )}
            />
          </Form.Group>
          <Form.Group controlId="key-place">
            <Form.Label>Received in</Form.Label>
            <Form.Select size="sm" {...form.register('place')}>
              {lists.places.map((place, index) => (
                <option key={place.label} value={index}>
                  {place.label}
                </option>
              ))}
            </Form.Select>
            {lists.takesTransfers ? null : (
              <Form.Text>
                For money at the bank,{' '}
                <Link href={`/books/${id}/set-up/channels/open`}>open a channel for transfers</Link>, or lay it on its
                line under Banked.
              </Form.Text>
            )}
          </Form.Group>
          <Form.Group controlId="key-date">
            <Form.Label>Day</Form.Label>
            <Form.Control size="sm" type="date" {...form.register('date')} />
          </Form.Group>
          <Form.Group controlId="key-reference">
            <Form.Label>Reference</Form.Label>
            <Form.Control size="sm" maxLength={80} placeholder="next number" {...form.register('reference')} />
          </Form.Group>
        </div>
        <div className="surface mb-2">
          <table className="list bill-lines" aria-label="What for">
            <tbody>
              {fields.map((field, index) => (
                <tr key={field.id}>
                  <td style={{ width: 180 }}>
                    <Form.Select
                      size="sm"
                      autoFocus={index === 0}
                      aria-label={`Item of line ${index + 1}`}
                      {...form.register(`lines.${index}.item`)}
                    >
                      <option value="">{gift ? 'as the fund lands' : 'no item'}</option>
                      {lists.items.map((item) => (
                        <option key={item.id} value={item.id}>
                          {item.name}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                  <td>
                    <Form.Control
                      size="sm"
                      placeholder="what for"
                      aria-label={`For of line ${index + 1}`}
                      {...form.register(`lines.${index}.description`)}
                    />
                  </td>
                  <td style={{ width: 120 }}>
                    <Form.Control
                      size="sm"
                      className="num"
                      inputMode="decimal"
                      placeholder={gift ? 'amount' : 'with tax'}
                      aria-label={`Amount of line ${index + 1}`}
                      isInvalid={fault?.field === `lines.${index}.amount`}
                      {...form.register(`lines.${index}.amount`)}
                    />
                  </td>
                  {gift ? null : (
                    <td style={{ width: 60 }}>
                      <Button
                        variant="link"
                        size="sm"
                        className="p-0"
                        disabled={fields.length === 1}
                        aria-label={`Take line ${index + 1} out`}
                        onClick={() => remove(index)}
                      >
                        Out
                      </Button>
                    </td>
                  )}
                </tr>
              ))}
            </tbody>
          </table>
          {gift ? null : (
            <Button variant="link" size="sm" onClick={() => append({ item: '', description: '', amount: '' })}>
              Another line
            </Button>
          )}
        </div>
        <div className="bill-head">
          {gift ? (
            <Form.Group controlId="key-fund">
              <Form.Label>For the fund</Form.Label>
              <Form.Control size="sm" list="funds" isInvalid={fault?.field === 'fund'} {...form.register('fund')} />
              <datalist id="funds">
                {lists.funds.map((fund) => (
                  <option key={fund} value={fund} />
                ))}
              </datalist>
            </Form.Group>
          ) : null}
          {(gift ? besideFund(lists) : lists.dimensions).map((dimension) => (
            <Form.Group key={dimension.id} controlId={`key-dimension-${dimension.id}`}>
              <Form.Label>{dimension.name}</Form.Label>
              <Form.Select size="sm" {...form.register(`dimensions.${dimension.id}`)}>
                <option value="">as the map says</option>
                {dimension.values.map((value) => (
                  <option key={value.id} value={value.id}>
                    {value.name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
          ))}
          <Form.Group controlId="key-note">
            <Form.Label>Note</Form.Label>
            <Form.Control size="sm" maxLength={500} {...form.register('note')} />
          </Form.Group>
          <Form.Group controlId="key-file">
            <Form.Label>Attach</Form.Label>
            <Form.Control size="sm" type="file" ref={file} />
          </Form.Group>
        </div>
        {fault ? <Notice kind="refused">{fault.fault}</Notice> : null}
        <Button type="submit" variant="primary">
          {gift ? 'Key the gift' : 'Key the sale'}
        </Button>{' '}
        {last ? (
          <span className="small">
            Keyed <Link href={`/books/${id}/collected?receipt=${last.receipt}`}>{last.reference}</Link>; the next one
            can be typed.
          </span>
        ) : (
          <span className="small soft">Enter keys it.</span>
        )}
      </div>
      <aside className="panel sticky-panel" aria-label="Entry it will write">
        {shown === null ? (
          <section className="soft">The entry it will write stands here once there is an amount.</section>
        ) : shown.ok && shown.value.posting.entry ? (
          <EntryPreview entry={shown.value.posting.entry} title="Entry it will write" of={null} />
        ) : (
          <section>{shown.ok ? null : <Notice kind="refused">{`${shown.what} ${shown.next}`}</Notice>}</section>
        )}
      </aside>
    </Form>
  );
}
