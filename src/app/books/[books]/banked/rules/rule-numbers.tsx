'use client';

import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { BookingLists } from '../book-to';

export interface NumberField {
  readonly number: string;
  readonly account: string;
}

interface Props {
  readonly numbers: readonly NumberField[];
  readonly lists: BookingLists;
  readonly onChange: (numbers: readonly NumberField[]) => void;
}

/** Other accounts by a number in the text: contracts, policies or meters that one payer writes about. */
export function RuleNumbers({ numbers, lists, onChange }: Props) {
  const set = (index: number, more: Partial<NumberField>) =>
    onChange(numbers.map((one, at) => (at === index ? { ...one, ...more } : one)));
  return (
    <section className="d-flex flex-wrap gap-3 align-items-end">
      {numbers.map((one, index) => (
        <div key={index} className="d-flex gap-1 align-items-end">
          <Form.Group controlId={`rule-number-${index}`} style={{ width: '8rem' }}>
            <Form.Label className="small soft mb-1">with number</Form.Label>
            <Form.Control
              size="sm"
              value={one.number}
              onChange={(event) => set(index, { number: event.target.value })}
            />
          </Form.Group>
          <Form.Group controlId={`rule-number-account-${index}`}>
            <Form.Label className="small soft mb-1">booked to</Form.Label>
            <Form.Select
              size="sm"
              value={one.account}
              onChange={(event) => set(index, { account: event.target.value })}
            >
              <option value="">choose an account…</option>
              {lists.accounts.map(({ id, code, name }) => (
                <option key={id} value={id}>
                  {code} {name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
          <button
            type="button"
            className="btn-quiet soft"
            aria-label={`Remove number ${one.number || index + 1}`}
            onClick={() => onChange(numbers.filter((_, at) => at !== index))}
          >
            ✕
          </button>
        </div>
      ))}
      <Button variant="link" size="sm" onClick={() => onChange([...numbers, { number: '', account: '' }])}>
        another account for a number in the text
      </Button>
    </section>
  );
}
