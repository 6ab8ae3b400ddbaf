'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { formatDate, plainDate } from '@/core/calendar';
import { formatAmount, negate } from '@/core/money';
import { RECEIPT_FIELDS, type ReceiptField, type ReceiptProfile } from '@/formats/receipts/profile';
import type { Sniffed } from '@/formats/receipts/sniff';
import { parseLooseAmount, parseLooseInstant, unwrap } from '@/formats/table/loose';
import { Notice } from '@/ui/parts/notice';

/** What each field is called on screen. */
const FIELD_WORDS: Readonly<Record<ReceiptField, string>> = {
  id: 'id',
  kind: 'kind: receipt, refund, payout',
  time: 'date, with or without time',
  clock: 'time of day',
  currency: 'currency',
  gross: 'gross',
  paidIn: 'money in',
  paidOut: 'money out',
  fee: 'fee',
  net: 'net',
  tip: 'tip in it',
  discount: 'discount given',
  payer: 'payer’s name',
  email: 'payer’s email',
  payerId: 'channel’s id of the payer',
  document: 'document number',
  item: 'item',
  units: 'units',
  tax: 'tax in it',
  note: 'note',
  method: 'paid by',
  site: 'site',
  country: 'sent to country',
  region: 'region',
  fund: 'fund',
  payout: 'payout it is in',
  refundOf: 'receipt it gives back',
};

const AMOUNTS: readonly ReceiptField[] = ['gross', 'paidIn', 'paidOut', 'fee', 'net', 'tip', 'discount', 'tax'];

interface Props {
  readonly file: string;
  readonly seen: Sniffed;
  readonly start: ReceiptProfile;
  /** Somebody has said yes to this reading before, so nothing is left to be asked. */
  readonly confirmed: boolean;
  readonly busy: boolean;
  readonly onRead: (profile: ReceiptProfile) => void;
  readonly onLeave: () => void;
}

/** How a file is read: each column with what stands in it and what is made of it, to be corrected before it comes in. */
export function ReadingForm({ file, seen, start, confirmed, busy, onRead, onLeave }: Props) {
  const [profile, setProfile] = useState(start);
  const [orderSaid, setOrderSaid] = useState(confirmed || !seen.ambiguousDates);
  const fieldOf = (name: string) =>
    RECEIPT_FIELDS.find((field) => profile.columns[field] === name) ?? ('' as ReceiptField | '');
  const assign = (name: string, field: ReceiptField | '') => {
    const kept = Object.entries(profile.columns).filter(([key, column]) => column !== name && key !== field);
    setProfile({ ...profile, columns: Object.fromEntries(field === '' ? kept : [...kept, [field, name]]) });
  };
  const { columns } = profile;
  const missing = [
    ...(columns.time === undefined ? ['which column has the date'] : []),
    ...(columns.gross === undefined && columns.net === undefined ? ['which column has the amount'] : []),
    ...(orderSaid ? [] : ['whether day or month comes first in its dates']),
  ];
  const kindOf = (value: string) =>
    profile.refunds.includes(value) ? 'refund' : profile.payouts.includes(value) ? 'payout' : profile.skipped.includes(value) ? 'skip' : 'receipt'; // prettier-ignore
  const setKind = (value: string, kind: string) => {
    const put = (list: readonly string[], on: boolean) => [
      ...list.filter((one) => one !== value),
      ...(on ? [value] : []),
    ];
    setProfile({
      ...profile,
      refunds: put(profile.refunds, kind === 'refund'),
      payouts: put(profile.payouts, kind === 'payout'),
      skipped: put(profile.skipped, kind === 'skip'),
    });
  };
  return (
    <section className="panel mb-3" aria-label="How the file is read">
      <header>
        <div>
          <div className="name">{file}</div>
          <div className="small soft">
            {seen.rows} rows{start.above > 0 ? `, ${start.above} above the header passed over` : ''}
          </div>
        </div>
      </header>
      {missing.length > 0 ? (
        <section>
          <Notice kind="waits">Say {missing.join(', and ')}.</Notice>
        </section>
      ) : null}
      <section className="d-flex gap-3 flex-wrap align-items-end">
        <Form.Group controlId="reading-decimal">
          <Form.Label>Decimal mark</Form.Label>
          <Form.Select
            size="sm"
            value={profile.decimal}
            onChange={(event) => setProfile({ ...profile, decimal: event.target.value as ReceiptProfile['decimal'] })}
          >
            <option value=".">point, 1,234.50</option>
            <option value=",">comma, 1.234,50</option>
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="reading-order">
          <Form.Label>Dates are written</Form.Label>
          <Form.Select
            size="sm"
            value={orderSaid ? profile.dateOrder : ''}
            onChange={(event) => {
              setOrderSaid(true);
              setProfile({ ...profile, dateOrder: event.target.value as ReceiptProfile['dateOrder'] });
            }}
          >
            {orderSaid ? null : <option value="">choose…</option>}
            <option value="YMD">year, month, day</option>
            <option value="DMY">day, month, year</option>
            <option value="MDY">month, day, year</option>
            <option value="serial">as a spreadsheet’s numbers</option>
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="reading-zone">
          <Form.Label>Times are of</Form.Label>
          <Form.Control
            size="sm"
            list="reading-zones"
            value={profile.zone}
            onChange={(event) => setProfile({ ...profile, zone: event.target.value })}
          />
          <datalist id="reading-zones">
            {Intl.supportedValuesOf('timeZone').map((zone) => (
              <option key={zone} value={zone} />
            ))}
            <option value="UTC" />
          </datalist>
        </Form.Group>
        <Form.Group controlId="reading-fee">
          <Form.Label>Fees are written</Form.Label>
          <Form.Select
            size="sm"
            value={profile.feeSign}
            onChange={(event) => setProfile({ ...profile, feeSign: event.target.value as ReceiptProfile['feeSign'] })}
          >
            <option value="plus">without a sign</option>
            <option value="minus">with a minus</option>
          </Form.Select>
        </Form.Group>
        {columns.currency === undefined ? (
          <Form.Group controlId="reading-currency">
            <Form.Label>Currency of all rows</Form.Label>
            <Form.Control
              size="sm"
              style={{ width: '5rem' }}
              maxLength={3}
              value={profile.currency}
              onChange={(event) => setProfile({ ...profile, currency: event.target.value.toUpperCase() })}
            />
          </Form.Group>
        ) : null}
      </section>
      {columns.kind !== undefined && seen.kinds.length > 0 ? (
        <section className="d-flex gap-3 flex-wrap">
          {seen.kinds.map(({ value, count }) => (
            <Form.Group key={value} controlId={`kind-${value}`}>
              <Form.Label>
                “{value}”, {count} rows
              </Form.Label>
              <Form.Select size="sm" value={kindOf(value)} onChange={(event) => setKind(value, event.target.value)}>
                <option value="receipt">are receipts</option>
                <option value="refund">are refunds</option>
                <option value="payout">are payouts</option>
                <option value="skip">are passed over</option>
              </Form.Select>
            </Form.Group>
          ))}
        </section>
      ) : null}
      <section className="flush" style={{ overflowX: 'auto' }}>
        <table className="list" aria-label="Columns of the file">
          <thead>
            <tr>
              <th scope="col">Column</th>
              <th scope="col">Read as</th>
              <th scope="col" className="w-100">
                What stands there, and what is made of it
              </th>
            </tr>
          </thead>
          <tbody>
            {seen.header.map((name, index) => (
              <tr key={`${name} ${index}`}>
                <td>{name || 'no name'}</td>
                <td>
                  <Form.Select
                    size="sm"
                    style={{ width: '15rem' }}
                    aria-label={`Column ${name} is read as`}
                    value={fieldOf(name)}
                    onChange={(event) => assign(name, event.target.value as ReceiptField | '')}
                  >
                    <option value="">not needed</option>
                    {RECEIPT_FIELDS.map((field) => (
                      <option key={field} value={field}>
                        {FIELD_WORDS[field]}
                      </option>
                    ))}
                  </Form.Select>
                </td>
                <td className="wide">
                  {seen.sample.slice(0, 4).map((row, at) => (
                    <Reading key={at} raw={row[index] ?? ''} field={fieldOf(name)} profile={profile} />
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </section>
      <div className="acts">
        <Button variant="primary" disabled={busy || missing.length > 0} onClick={() => onRead(profile)}>
          See what it holds
        </Button>
        <Button variant="plain" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </section>
  );
}

/** One raw value with what is made of it, where that is not the same. */
function Reading({ raw, field, profile }: { raw: string; field: ReceiptField | ''; profile: ReceiptProfile }) {
  const text = unwrap(raw);
  if (text === '') return null;
  let made = '';
  if (AMOUNTS.some((one) => one === field)) {
    const parsed = parseLooseAmount(text, profile.currency, profile.decimal);
    const turned = field === 'fee' && profile.feeSign === 'minus';
    made = parsed.ok ? formatAmount(turned ? negate(parsed.minor) : parsed.minor, profile.currency) : 'no amount';
  } else if (field === 'time') {
    const instant = parseLooseInstant(text, profile.dateOrder, profile.zone);
    const at = instant?.toISOString();
    const clock = text.includes(':') || text.includes('.5') ? `, ${at?.slice(11, 16)} UTC` : '';
    made = at ? `${formatDate(plainDate(at.slice(0, 10)))}${clock}` : 'no date';
  }
  return (
    <div className="small">
      <code>{raw}</code>
      {made === '' ? '' : ` → ${made}`}
    </div>
  );
}
