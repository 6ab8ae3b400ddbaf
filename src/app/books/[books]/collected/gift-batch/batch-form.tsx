'use client';

import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { GiftBatchInput, KeyedBatch } from '@/books/by-hand/gift-batch';
import { addDays, parsePlainDate } from '@/core/calendar';
import { parseAmount, sum } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { keyBatchNow, previewBatch } from '../key/actions';
import { besideFund, dimensionsOf, fundDimension } from '../key/key-fields';
import type { KeyLists } from '../key/key-lists';

interface BatchFields {
  channel: string;
  first: string;
  last: string;
  reference: string;
  rows: { place: string; fund: string; note: string; amount: string; dimensions: Record<string, string> }[];
}

function readBatch(fields: BatchFields, lists: KeyLists): { batch: GiftBatchInput } | { fault: string } {
  const [first, last] = [parsePlainDate(fields.first), parsePlainDate(fields.last)];
  if (!first || !last) return { fault: 'Write the first and the last day.' };
  const rows: GiftBatchInput['rows'] = [];
  for (const [index, row] of fields.rows.entries()) {
    if (row.fund === '' && row.amount === '' && index > 0) continue;
    const amount = parseAmount(row.amount.trim(), lists.currency);
    if (!amount.ok || amount.minor <= 0) return { fault: `Row ${index + 1}: write its gross amount, like 480.00.` };
    if (row.fund.trim() === '') return { fault: `Row ${index + 1}: say which fund it is for.` };
    const { channel, site, method } = lists.places[Number(row.place)]!;
    rows.push({
      place: { channel, site, method },
      fund: row.fund,
      item: null,
      dimensions: [...fundDimension(lists, row.fund), ...dimensionsOf(row.dimensions)],
      payer: null,
      amount: amount.minor,
      note: row.note,
    });
  }
  return { batch: { channel: Number(fields.channel), first, last, reference: fields.reference.trim() || last, rows } };
}

/** A batch of a week: its rows, what they come to, and the entry or the entries it will write. */
export function BatchForm({ lists }: { lists: KeyLists }) {
  const { id, today } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const firstPlace = Math.max(
    0,
    lists.places.findIndex(({ method }) => method === ''),
  );
  const row = { place: String(firstPlace), fund: '', note: '', amount: '', dimensions: {} };
  const form = useForm<BatchFields>({
    defaultValues: {
      channel: String(lists.places[firstPlace]!.channel),
      first: addDays(today, -6),
      last: today,
      reference: '',
      rows: [row],
    },
  });
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'rows' });
  const [fault, setFault] = useState('');
  const [shown, setShown] = useState<ActionAnswer<KeyedBatch> | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const values = form.watch();
  const read = readBatch(values, lists);
  const look = async () => {
    if ('fault' in read) return setFault(read.fault);
    setFault('');
    setShown(await previewBatch(id, read.batch));
  };
  const keyIt = async () => {
    if ('fault' in read) return setFault(read.fault);
    const answer = await keyBatchNow(id, read.batch);
    setShown(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    const report = file.current?.files?.[0];
    if (report) {
      const headers = { 'x-file-name': encodeURIComponent(report.name) };
      const response = await fetch(`/api/books/${id}/attachments/gift-batch/${answer.value.batch}`, {
        method: 'POST',
        headers,
        body: report,
      });
      const told = (await response.json()) as ActionAnswer<unknown>;
      if (!told.ok) toasts.refused(told.what, told.next);
    }
    form.reset();
    router.refresh();
  };
  return (
    <Form
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void look();
      }}
    >
      <div className="bill-head">
        <Form.Group controlId="batch-channel">
          <Form.Label>Paid out by</Form.Label>
          <Form.Select size="sm" {...form.register('channel')}>
            {lists.channels.map((channel) => (
              <option key={channel.id} value={channel.id}>
                {channel.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="batch-first">
          <Form.Label>First day</Form.Label>
          <Form.Control size="sm" type="date" {...form.register('first')} />
        </Form.Group>
        <Form.Group controlId="batch-last">
          <Form.Label>Last day</Form.Label>
          <Form.Control size="sm" type="date" {...form.register('last')} />
        </Form.Group>
        <Form.Group controlId="batch-reference">
          <Form.Label>Reference</Form.Label>
          <Form.Control size="sm" placeholder={values.last} maxLength={60} {...form.register('reference')} />
        </Form.Group>
      </div>
      <div className="surface mb-2">
        <table className="list bill-lines" aria-label="Gifts of the batch">
          <thead>
            <tr>
              <th scope="col">Fund</th>
              <th scope="col">Received in</th>
              {besideFund(lists).map((dimension) => (
                <th scope="col" key={dimension.id}>
                  {dimension.name}
                </th>
              ))}
              <th scope="col">Note</th>
              <th scope="col" className="num">
                Gross
              </th>
              <th scope="col">
                <span className="visually-hidden">Acts</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {fields.map((field, index) => (
              <tr key={field.id}>
                <td>
                  <Form.Control
                    size="sm"
                    list="funds"
                    aria-label={`Fund of row ${index + 1}`}
                    {...form.register(`rows.${index}.fund`)}
                  />
                </td>
                <td style={{ width: 220 }}>
                  <Form.Select
                    size="sm"
                    aria-label={`Received in of row ${index + 1}`}
                    {...form.register(`rows.${index}.place`)}
                  >
                    {lists.places.map((place, at) => (
                      <option key={place.label} value={at}>
                        {place.label}
                      </option>
                    ))}
                  </Form.Select>
                </td>
                {besideFund(lists).map((dimension) => (
                  <td key={dimension.id} style={{ width: 150 }}>
                    <Form.Select
                      size="sm"
                      aria-label={`${dimension.name} of row ${index + 1}`}
                      {...form.register(`rows.${index}.dimensions.${dimension.id}`)}
                    >
                      <option value="">as the map says</option>
                      {dimension.values.map((value) => (
                        <option key={value.id} value={value.id}>
                          {value.name}
                        </option>
                      ))}
                    </Form.Select>
                  </td>
                ))}
                <td>
                  <Form.Control
                    size="sm"
                    aria-label={`Note of row ${index + 1}`}
                    {...form.register(`rows.${index}.note`)}
                  />
                </td>
                <td style={{ width: 120 }}>
                  <Form.Control
                    size="sm"
                    className="num"
                    inputMode="decimal"
                    aria-label={`Gross of row ${index + 1}`}
                    {...form.register(`rows.${index}.amount`)}
                  />
                </td>
                <td>
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0"
                    disabled={fields.length === 1}
                    aria-label={`Take row ${index + 1} out`}
                    onClick={() => remove(index)}
                  >
                    Out
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="totals">
              <td colSpan={2}>
                <Button variant="link" size="sm" className="p-0" onClick={() => append(row)}>
                  Another row
                </Button>
              </td>
              <td colSpan={2 + besideFund(lists).length} className="num">
                {'batch' in read ? `gross ${money(sum(read.batch.rows.map(({ amount }) => amount)))}` : ''}
              </td>
              <td />
            </tr>
          </tfoot>
        </table>
        <datalist id="funds">
          {lists.funds.map((fund) => (
            <option key={fund} value={fund} />
          ))}
        </datalist>
      </div>
      <Form.Group controlId="batch-file" className="mb-2" style={{ maxWidth: 420 }}>
        <Form.Label>The batch’s report</Form.Label>
        <Form.Control size="sm" type="file" ref={file} />
      </Form.Group>
      {fault ? <Notice kind="refused">{fault}</Notice> : null}
      {shown && !shown.ok ? <Notice kind="refused">{`${shown.what} ${shown.next}`}</Notice> : null}
      {shown?.ok ? (
        <div className="box">
          <h2>It will move</h2>
          {shown.value.posting.moves.map((move) => (
            <div key={move.account} className="d-flex gap-3 small">
              <span>{move.name}</span>
              <span className="num ms-auto">
                {money(move.before)} → {money(move.after)}
              </span>
            </div>
          ))}
          <Button variant="primary" className="mt-2" autoFocus onClick={() => void keyIt()}>
            Key the batch
          </Button>
        </div>
      ) : (
        <Button type="submit" variant="primary">
          See what it writes
        </Button>
      )}
    </Form>
  );
}
