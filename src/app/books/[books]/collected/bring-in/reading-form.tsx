'use client';

import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { formatDate, plainDate } from '@/core/calendar';
import { formatAmount, negate } from '@/core/money';
import { RECEIPT_FIELDS, type ReceiptField, type ReceiptProfile } from '@/formats/receipts/profile';
import type { SaidOfFile } from '@/books/receipts/sniff-file';
import { plural } from '@/core/words';
import type { Sniffed } from '@/formats/receipts/sniff';
import { parseLooseAmount, parseLooseInstant, unwrap } from '@/formats/table/loose';
import { Notice } from '@/ui/parts/notice';
import { ReadingOptions } from './reading-options';
import { AMOUNTS, FIELD_WORDS } from './reading-words';

interface Props {
  readonly file: string;
  readonly seen: Sniffed;
  readonly start: ReceiptProfile;
  /** Somebody has said yes to this reading before, so nothing is left to be asked. */
  readonly confirmed: boolean;
  readonly busy: boolean;
  readonly onRead: (profile: ReceiptProfile) => void;
  /** The file is written otherwise than it was guessed: it is looked through once more. */
  readonly onLookAgain: (said: SaidOfFile) => void;
  readonly onLeave: () => void;
}

/** How a file is read: each column with what stands in it and what is made of it, to be corrected before it comes in. */
export function ReadingForm({ file, seen, start, confirmed, busy, onRead, onLookAgain, onLeave }: Props) {
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
    ...(profile.shape === 'till-days' && profile.tenders.length === 0 ? ['which rows say how it was paid'] : []),
    ...(orderSaid ? [] : ['whether day or month comes first in its dates']),
  ];
  return (
    <section className="panel mb-3" aria-label="How the file is read">
      <header>
        <div>
          <div className="name">{file}</div>
          <div className="small soft">
            {plural(seen.rows, 'row')}
            {start.above > 0 ? `, ${start.above} above the header passed over` : ''}
          </div>
        </div>
      </header>
      {missing.length > 0 ? (
        <section>
          <Notice kind="waits">Say {missing.join(', and ')}.</Notice>
        </section>
      ) : null}
      <ReadingOptions
        profile={profile}
        kinds={seen.kinds}
        orderSaid={orderSaid}
        onOrder={() => setOrderSaid(true)}
        onChange={setProfile}
        onLookAgain={onLookAgain}
      />
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
                <td className="text-nowrap">{name || 'no name'}</td>
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
