'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { RestAccount } from '@/books/matching/rest-accounts';
import type { SheetPart } from '@/books/matching/parts';
import type { PlainDate } from '@/core/calendar';
import type { AccountId } from '@/core/ledger';
import { parseAmount, writeAmount, ZERO, type BasisPoints, type Minor } from '@/core/money';
import { useBooks } from '@/ui/frame/books-context';
import { BookingFields, type Booking } from './booking-fields';

export interface BookingLists {
  /** What is over on invoices is kept there, for their payer. */
  readonly payerCredit: AccountId;
  readonly accounts: readonly RestAccount[];
  readonly taxCodes: readonly {
    readonly id: number;
    readonly code: string;
    readonly rate: BasisPoints;
    readonly account: AccountId;
  }[];
  readonly dimensions: readonly {
    readonly id: number;
    readonly name: string;
    readonly values: readonly { readonly id: number; readonly name: string }[];
  }[];
}

interface Props {
  readonly lists: BookingLists;
  readonly date: PlainDate;
  /** The bank’s text, from which a rule can be made. */
  readonly text: string;
  /** What is left to explain, which is proposed as the amount. */
  readonly left: Minor;
  readonly onAdd: (part: SheetPart) => void;
}

/** Books some of a deposit, or of what went out, straight to an account: with its dimensions, and tax within it. */
export function BookTo({ lists, date, text, left, onAdd }: Props) {
  const { id, currency } = useBooks();
  const [booking, setBooking] = useState<Booking>({ account: '', tax: '', payer: null, dimensions: {} });
  const [amount, setAmount] = useState(left === 0 ? '' : writeAmount(left, currency));
  const [fault, setFault] = useState('');
  const add = () => {
    const { account, tax, payer, dimensions: chosen } = booking;
    const parsed = parseAmount(amount.replace('−', '-').replace(/[,\s](?=\d{3})/g, ''), currency);
    const to = lists.accounts.find(({ id }) => String(id) === account);
    if (!to) return setFault('Choose the account.');
    if (!parsed.ok || parsed.minor === 0) return setFault('Write the amount like 12.50; what went out with a minus.');
    setFault('');
    const code = lists.taxCodes.find(({ id }) => String(id) === tax) ?? null;
    const values = lists.dimensions.flatMap(({ id, values: of }) =>
      of.filter((value) => value.id === chosen[id]).map(({ name }) => name),
    );
    onAdd({
      kind: 'account',
      id: to.id,
      title: `Booked to ${to.code} ${to.name}`,
      note: [payer?.name ?? '', ...values, code ? `tax ${code.code} within` : ''].filter(Boolean).join(', '),
      date,
      gross: parsed.minor,
      fee: ZERO,
      feeFrom: 'none',
      net: parsed.minor,
      part: {
        kind: 'account',
        account: to.id,
        amount: parsed.minor,
        dimensions: Object.entries(chosen).map(([dimension, value]) => [Number(dimension), value] as const),
        tax: code && { account: code.account, code: code.code, rate: code.rate },
        rule: null,
      },
      detail: { dimensions: chosen, taxCode: code?.id ?? null, rule: null, ruleId: null, payer: payer?.id ?? null },
    });
  };
  return (
    <section aria-label="Book some of it to an account">
      <div className="d-flex flex-wrap gap-2 align-items-end">
        <BookingFields name="book" accountLabel="Account" lists={lists} value={booking} onChange={setBooking} />
        <Form.Group controlId="book-amount" style={{ width: '7rem' }}>
          <Form.Label className="small soft mb-1">Amount</Form.Label>
          <Form.Control size="sm" className="num" value={amount} onChange={(event) => setAmount(event.target.value)} />
        </Form.Group>
        <Button variant="plain" size="sm" onClick={add}>
          Put on the sheet
        </Button>
        <Link className="small" href={`/books/${id}/banked/rules?text=${encodeURIComponent(text)}`}>
          Make a rule of it
        </Link>
      </div>
      {fault ? <div className="fault mt-1">{fault}</div> : null}
    </section>
  );
}
