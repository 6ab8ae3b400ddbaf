'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { BillLists } from '@/books/billing/bill-lists';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import { openPageNow, savePageNow } from '../actions';
import { readPage, type PageFields } from './page-fields';

interface Props {
  readonly page: { readonly id: number; readonly open: boolean } | null;
  readonly fields: PageFields;
  readonly lists: BillLists;
  readonly channels: readonly { readonly id: number; readonly name: string }[];
}

/** What a public page says and offers. */
export function PageForm({ page, fields, lists, channels }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const form = useForm<PageFields>({ defaultValues: fields });
  const tickets = useFieldArray({ control: form.control, name: 'tickets' });
  const [fault, setFault] = useState('');
  const save = async (values: PageFields) => {
    const read = readPage(page?.id ?? null, { ...fields, ...values }, lists.currency);
    if ('fault' in read) return setFault(read.fault);
    setFault('');
    const answer = await savePageNow(id, read.page);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/set-up/public`);
  };
  const turn = async () => {
    const answer = await openPageNow(id, { page: page!.id, open: !page!.open });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <Form className="box" style={{ maxWidth: 760 }} onSubmit={(event) => void form.handleSubmit(save)(event)}>
      <Form.Group controlId="page-title" className="mb-2">
        <Form.Label>Title</Form.Label>
        <Form.Control size="sm" maxLength={120} {...form.register('title')} />
      </Form.Group>
      <Form.Group controlId="page-about" className="mb-2">
        <Form.Label>What it says</Form.Label>
        <Form.Control size="sm" as="textarea" rows={3} {...form.register('about')} />
      </Form.Group>
      <Form.Group controlId="page-channel" className="mb-2">
        <Form.Label>Paid through</Form.Label>
        <Form.Select size="sm" {...form.register('channel')}>
          {channels.map((channel) => (
            <option key={channel.id} value={channel.id}>
              {channel.name}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      {fields.kind === 'giving' ? (
        <>
          <Form.Group controlId="page-funds" className="mb-2">
            <Form.Label>Funds, one a line</Form.Label>
            <Form.Control size="sm" as="textarea" rows={4} {...form.register('funds')} />
          </Form.Group>
          <Form.Group controlId="page-amounts" className="mb-2">
            <Form.Label>Amounts to choose from</Form.Label>
            <Form.Control size="sm" {...form.register('amounts')} />
          </Form.Group>
          <Form.Check id="page-monthly" className="mb-3" label="Also each month" {...form.register('monthly')} />
        </>
      ) : (
        <>
          <div className="d-flex gap-3 mb-2">
            <Form.Group controlId="page-day">
              <Form.Label>Day of the event</Form.Label>
              <Form.Control size="sm" type="date" {...form.register('day')} />
            </Form.Group>
            <Form.Group controlId="page-places">
              <Form.Label>Places</Form.Label>
              <Form.Control size="sm" className="num" inputMode="numeric" {...form.register('places')} />
            </Form.Group>
          </div>
          <div className="d-flex gap-2 soft small" aria-hidden="true">
            {['Ticket', 'Item', 'Tax code'].map((head) => (
              <span key={head} className="w-100">
                {head}
              </span>
            ))}
            <span className="w-100 text-end">Net price</span>
            <span className="btn btn-link btn-sm invisible py-0">Out</span>
          </div>
          {tickets.fields.map((ticket, index) => (
            <div key={ticket.id} className="d-flex gap-2 mb-1">
              <Form.Control
                size="sm"
                placeholder="ticket"
                aria-label={`Name of ticket ${index + 1}`}
                {...form.register(`tickets.${index}.name`)}
              />
              <Form.Select
                size="sm"
                aria-label={`Item of ticket ${index + 1}`}
                {...form.register(`tickets.${index}.item`)}
              >
                <option value="">item</option>
                {lists.items.map((item) => (
                  <option key={item.id} value={item.id}>
                    {item.name}
                  </option>
                ))}
              </Form.Select>
              <Form.Select
                size="sm"
                aria-label={`Tax code of ticket ${index + 1}`}
                {...form.register(`tickets.${index}.taxCode`)}
              >
                <option value="">tax</option>
                {lists.taxCodes.map((tax) => (
                  <option key={tax.id} value={tax.id}>
                    {tax.code}
                  </option>
                ))}
              </Form.Select>
              <Form.Control
                size="sm"
                className="num"
                placeholder="net price"
                aria-label={`Net price of ticket ${index + 1}`}
                {...form.register(`tickets.${index}.price`)}
              />
              <Button
                variant="link"
                size="sm"
                disabled={tickets.fields.length === 1}
                aria-label={`Take ticket ${index + 1} out`}
                onClick={() => tickets.remove(index)}
              >
                Out
              </Button>
            </div>
          ))}
          <Button
            variant="link"
            size="sm"
            className="p-0 mb-3"
            onClick={() => tickets.append({ name: '', item: '', taxCode: '', price: '' })}
          >
            Another ticket
          </Button>
        </>
      )}
      {fault ? <Notice kind="refused">{fault}</Notice> : null}
      <div className="d-flex gap-2">
        <Button type="submit" variant="primary">
          {page ? 'Keep' : 'Open the page'}
        </Button>
        {page ? (
          <Button variant="plain" onClick={() => void turn()}>
            {page.open ? 'Close the page' : 'Open it again'}
          </Button>
        ) : null}
      </div>
    </Form>
  );
}
