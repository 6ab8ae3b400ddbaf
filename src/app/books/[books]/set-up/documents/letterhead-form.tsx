'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { LetterheadInput } from '@/books/setup/list-commands';
import { parseAmount, writeAmount } from '@/core/money';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { setLetterheadNow } from '../lists/actions';

type Fields = Omit<LetterheadInput, 'write_off_limit'> & { write_off_limit: string };

/** The books' own address and numbers, as documents carry them. */
export function LetterheadForm({ values, iban }: { values: LetterheadInput; iban: string | null }) {
  const { id, currency, today } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const form = useForm<Fields>({
    defaultValues: { ...values, write_off_limit: writeAmount(values.write_off_limit, currency) },
  });
  const [fault, setFault] = useState('');
  const save = async (fields: Fields) => {
    const limit = parseAmount(fields.write_off_limit.trim(), currency);
    if (!limit.ok) return setFault(`Write an amount in ${currency}.`);
    setFault('');
    const answer = await setLetterheadNow(id, { ...fields, bic: fields.bic.trim(), write_off_limit: limit.minor });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const prefix = form.watch('number_prefix');
  return (
    <Form className="box" style={{ maxWidth: 620 }} onSubmit={(event) => void form.handleSubmit(save)(event)}>
      <Form.Group controlId="head-address" className="mb-2">
        <Form.Label>Address</Form.Label>
        <Form.Control size="sm" as="textarea" rows={3} {...form.register('address')} />
      </Form.Group>
      <Form.Group controlId="head-email" className="mb-2">
        <Form.Label>Email</Form.Label>
        <Form.Control size="sm" type="email" {...form.register('email')} />
      </Form.Group>
      <Form.Group controlId="head-tax" className="mb-2">
        <Form.Label>Tax number</Form.Label>
        <Form.Control size="sm" {...form.register('tax_number')} />
      </Form.Group>
      <Form.Group controlId="head-prefix" className="mb-2">
        <Form.Label>Numbers begin with</Form.Label>
        <Form.Control size="sm" maxLength={12} {...form.register('number_prefix')} />
        <Form.Text>
          Invoices are numbered {prefix}
          {today.slice(0, 4)}-0001 and on, credit notes {prefix}C{today.slice(0, 4)}-0001 and on, each year anew.
        </Form.Text>
      </Form.Group>
      <Form.Group controlId="head-bic" className="mb-2">
        <Form.Label>BIC of {iban ?? 'the bank account'}</Form.Label>
        <Form.Control size="sm" disabled={iban === null} {...form.register('bic')} />
      </Form.Group>
      <Form.Group controlId="head-limit" className="mb-3">
        <Form.Label>A remainder may be written off up to</Form.Label>
        <Form.Control
          size="sm"
          className="num"
          style={{ maxWidth: 120 }}
          isInvalid={fault !== ''}
          {...form.register('write_off_limit')}
        />
        {fault ? <div className="fault">{fault}</div> : null}
      </Form.Group>
      <Button type="submit" variant="primary">
        Keep
      </Button>
    </Form>
  );
}
