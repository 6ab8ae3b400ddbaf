'use client';

import Form from 'react-bootstrap/Form';
import type { Named } from '@/books/map/map-page';
import { PayerSelect } from '../owed/payers/payer-select';
import type { BookingLists } from './book-to';

/** What is chosen: ids as the fields hold them, empty where nothing is. */
export interface Booking {
  readonly account: string;
  readonly tax: string;
  readonly payer: Named | null;
  readonly dimensions: Readonly<Record<number, number>>;
}

interface Props {
  /** Begins the ids of the fields, which are unique on a page. */
  readonly name: string;
  readonly accountLabel: string;
  readonly lists: BookingLists;
  readonly value: Booking;
  readonly onChange: (value: Booking) => void;
}

/** Where money is booked: the account, tax within it, whose it is, and its dimensions. */
export function BookingFields({ name, accountLabel, lists, value, onChange }: Props) {
  const set = (more: Partial<Booking>) => onChange({ ...value, ...more });
  const choose = (dimension: number, chosen: string) => {
    const { [dimension]: _before, ...others } = value.dimensions;
    set({ dimensions: chosen === '' ? others : { ...others, [dimension]: Number(chosen) } });
  };
  return (
    <>
      <Form.Group controlId={`${name}-account`}>
        <Form.Label className="small soft mb-1">{accountLabel}</Form.Label>
        <Form.Select size="sm" value={value.account} onChange={(event) => set({ account: event.target.value })}>
          <option value="">choose an account…</option>
          {lists.accounts.map(({ id, code, name: called }) => (
            <option key={id} value={id}>
              {code} {called}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId={`${name}-tax`}>
        <Form.Label className="small soft mb-1">Tax within it</Form.Label>
        <Form.Select size="sm" value={value.tax} onChange={(event) => set({ tax: event.target.value })}>
          <option value="">none</option>
          {lists.taxCodes.map(({ id, code }) => (
            <option key={id} value={id}>
              {code}
            </option>
          ))}
        </Form.Select>
      </Form.Group>
      <Form.Group controlId={`${name}-payer-group`} style={{ width: '11rem' }}>
        <Form.Label className="small soft mb-1" htmlFor={`${name}-payer`}>
          Payer
        </Form.Label>
        <PayerSelect id={`${name}-payer`} clearable value={value.payer} onChange={(payer) => set({ payer })} />
      </Form.Group>
      {lists.dimensions.map((dimension) => (
        <Form.Group key={dimension.id} controlId={`${name}-dimension-${dimension.id}`}>
          <Form.Label className="small soft mb-1">{dimension.name}</Form.Label>
          <Form.Select
            size="sm"
            value={value.dimensions[dimension.id] ?? ''}
            onChange={(event) => choose(dimension.id, event.target.value)}
          >
            <option value="">none</option>
            {dimension.values.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Form.Select>
        </Form.Group>
      ))}
    </>
  );
}
