'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useFieldArray, useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { PayerDetails } from '@/books/payers/details';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { setPayerDetailsNow } from '../actions';

interface Props {
  readonly payer: number | null;
  readonly details: PayerDetails;
  readonly terms: readonly { readonly id: number; readonly name: string }[];
  readonly channels: readonly { readonly id: number; readonly name: string }[];
  readonly onDone: (payer: number | null) => void;
}

type Fields = Omit<PayerDetails, 'emails' | 'terms'> & { emails: string; terms: string };

/** All that is kept of a payer, in one dialog. */
export function PayerForm({ payer, details, terms, channels, onDone }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const form = useForm<Fields>({
    defaultValues: { ...details, emails: details.emails.join('\n'), terms: String(details.terms ?? '') },
  });
  const { fields, append, remove } = useFieldArray({ control: form.control, name: 'externals' });
  const [asked, setAsked] = useState<string | null>(null);
  const save = async (values: Fields, evenSo = false) => {
    const input = {
      ...values,
      emails: values.emails.split(/[\s,;]+/).filter(Boolean),
      terms: values.terms === '' ? null : Number(values.terms),
      externals: values.externals.map((one) => ({ channel: Number(one.channel), id: one.id })),
    };
    const answer = await setPayerDetailsNow(id, { payer, details: input, evenSo });
    if (!answer.ok) {
      if (answer.code === 'email-taken') return setAsked(answer.what);
      return toasts.refused(answer.what, answer.next);
    }
    if (answer.change) toasts.changed(answer.change);
    onDone(answer.value.payer);
    router.refresh();
  };
  return (
    <Modal show onHide={() => onDone(null)} size="lg" aria-labelledby="payer-title">
      <Form onSubmit={(event) => void form.handleSubmit((values) => save(values))(event)}>
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="payer-title">
            {payer === null ? 'New payer' : details.name}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body className="two">
          <div>
            <Form.Group controlId="payer-name" className="mb-2">
              <Form.Label>Name</Form.Label>
              <Form.Control size="sm" required autoFocus maxLength={120} {...form.register('name')} />
            </Form.Group>
            <Form.Group controlId="payer-email" className="mb-2">
              <Form.Label>Email</Form.Label>
              <Form.Control size="sm" type="email" {...form.register('email')} />
            </Form.Group>
            <Form.Group controlId="payer-emails" className="mb-2">
              <Form.Label>Other emails, one a line</Form.Label>
              <Form.Control size="sm" as="textarea" rows={2} {...form.register('emails')} />
            </Form.Group>
            <Form.Group controlId="payer-address" className="mb-2">
              <Form.Label>Address</Form.Label>
              <Form.Control size="sm" as="textarea" rows={3} {...form.register('address')} />
            </Form.Group>
          </div>
          <div>
            <div className="d-flex gap-2 mb-2">
              <Form.Group controlId="payer-country">
                <Form.Label>Country code</Form.Label>
                <Form.Control
                  size="sm"
                  maxLength={2}
                  pattern="[A-Z]{2}"
                  {...form.register('country', { setValueAs: (text: string) => text.toUpperCase() })}
                />
              </Form.Group>
              <Form.Group controlId="payer-tax">
                <Form.Label>Tax number</Form.Label>
                <Form.Control size="sm" maxLength={40} {...form.register('taxNumber')} />
              </Form.Group>
            </div>
            <Form.Group controlId="payer-terms" className="mb-2">
              <Form.Label>Terms of new invoices</Form.Label>
              <Form.Select size="sm" {...form.register('terms')}>
                <option value="">at once</option>
                {terms.map((one) => (
                  <option key={one.id} value={one.id}>
                    {one.name}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <Form.Label as="div">What channels call them</Form.Label>
            {fields.map((field, index) => (
              <div key={field.id} className="d-flex gap-2 mb-1">
                <Form.Select
                  size="sm"
                  aria-label={`Channel of id ${index + 1}`}
                  {...form.register(`externals.${index}.channel`)}
                >
                  {channels.map((one) => (
                    <option key={one.id} value={one.id}>
                      {one.name}
                    </option>
                  ))}
                </Form.Select>
                <Form.Control
                  size="sm"
                  required
                  aria-label={`Id ${index + 1}`}
                  {...form.register(`externals.${index}.id`)}
                />
                <Button variant="link" size="sm" aria-label={`Take id ${index + 1} out`} onClick={() => remove(index)}>
                  Out
                </Button>
              </div>
            ))}
            {channels.length > 0 ? (
              <Button
                variant="link"
                size="sm"
                className="p-0 mb-2"
                onClick={() => append({ channel: channels[0]!.id, id: '' })}
              >
                Another id
              </Button>
            ) : null}
            <Form.Group controlId="payer-note" className="mb-2">
              <Form.Label>Note</Form.Label>
              <Form.Control size="sm" as="textarea" rows={2} {...form.register('note')} />
            </Form.Group>
            <Form.Check
              id="payer-archived"
              label="Archived: not offered for new invoices"
              {...form.register('archived')}
            />
          </div>
          {asked ? (
            <div className="notice waits" role="status">
              {asked}{' '}
              <Button variant="link" size="sm" className="p-0" onClick={() => void save(form.getValues(), true)}>
                They are two all the same
              </Button>
            </div>
          ) : null}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={() => onDone(null)}>
            Leave it
          </Button>
          <Button type="submit" variant="primary">
            Keep
          </Button>
        </Modal.Footer>
      </Form>
    </Modal>
  );
}
