'use client';

import { useState } from 'react';
import { useForm } from 'react-hook-form';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { useBooks } from '@/ui/frame/books-context';
import { readRow, valuesOf, type RowField, type RowValues } from './row-fields';

interface Props {
  readonly title: string;
  readonly fields: readonly RowField[];
  /** The row that is changed; null for a new one. */
  readonly row: Readonly<Record<string, unknown>> | null;
  readonly onHide: () => void;
  readonly onKeep: (row: Record<string, unknown>) => Promise<void>;
}

const DEFAULTS: RowValues = { unit: 'C62', category: 'S' };

/** One row of a list in a dialog. */
export function RowForm({ title, fields, row, onHide, onKeep }: Props) {
  const { currency } = useBooks();
  const form = useForm<RowValues>({ defaultValues: row ? valuesOf(fields, row, currency) : DEFAULTS });
  const [fault, setFault] = useState<{ field: string; fault: string } | null>(null);
  const keep = async (values: RowValues) => {
    const read = readRow(fields, values, currency);
    if ('fault' in read) return setFault(read);
    setFault(null);
    await onKeep(read.row);
  };
  return (
    <Modal show onHide={onHide} aria-labelledby="row-title">
      <Form onSubmit={(event) => void form.handleSubmit(keep)(event)}>
        <Modal.Header closeButton>
          <Modal.Title as="h2" id="row-title">
            {title}
          </Modal.Title>
        </Modal.Header>
        <Modal.Body>
          {fields.map(({ name, label, kind, choices, hint, required }, index) => (
            <Form.Group key={name} controlId={`row-${name}`} className="mb-2">
              <Form.Label>{label}</Form.Label>
              {kind === 'choice' ? (
                <Form.Select size="sm" required={required} {...form.register(name)}>
                  <option value="">{required ? 'choose' : 'none'}</option>
                  {choices!.map(({ value, label: words }) => (
                    <option key={value} value={value}>
                      {words}
                    </option>
                  ))}
                </Form.Select>
              ) : (
                <Form.Control
                  size="sm"
                  required={required}
                  autoFocus={index === 0}
                  isInvalid={fault?.field === name}
                  inputMode={kind === 'text' ? undefined : 'decimal'}
                  {...form.register(name)}
                />
              )}
              {fault?.field === name ? <div className="fault">{fault.fault}</div> : null}
              {hint ? <Form.Text>{hint}</Form.Text> : null}
            </Form.Group>
          ))}
        </Modal.Body>
        <Modal.Footer>
          <Button variant="plain" onClick={onHide}>
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
