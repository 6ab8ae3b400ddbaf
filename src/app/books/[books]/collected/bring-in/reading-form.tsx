'use client';

import { useState } from 'react';
import { formatDate, plainDate } from '@/core/calendar';
import { formatAmount, negate } from '@/core/money';
import { RECEIPT_FIELDS, type ReceiptField, type ReceiptProfile } from '@/formats/receipts/profile';
import { plural } from '@/core/words';
import type { Sniffed } from '@/formats/receipts/sniff';
import { parseLooseAmount, parseLooseInstant, unwrap } from '@/formats/table/loose';
import type { ReadingFormProps } from '@/ui/parts/bring-in-read';
import { ReadingFrame } from '@/ui/parts/reading-frame';
import { ColumnsTable } from '@/ui/parts/reading-parts';
import { ReadingOptions } from './reading-options';
import { AMOUNTS, FIELD_WORDS } from './reading-words';

/** How a file is read: each column with what stands in it and what is made of it, to be corrected before it comes in. */
export function ReadingForm({
  file,
  seen,
  start,
  confirmed,
  busy,
  onRead,
  onLookAgain,
  onLeave,
}: ReadingFormProps<Sniffed, ReceiptProfile>) {
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
    <ReadingFrame
      file={file}
      has={`${plural(seen.rows, 'row')}${start.above > 0 ? `, ${start.above} above the header passed over` : ''}`}
      missing={missing}
      busy={busy}
      onRead={() => onRead(profile)}
      onLeave={onLeave}
    >
      <ReadingOptions
        profile={profile}
        kinds={seen.kinds}
        orderSaid={orderSaid}
        onOrder={() => setOrderSaid(true)}
        onChange={setProfile}
        onLookAgain={onLookAgain}
      />
      <ColumnsTable
        header={seen.header}
        sample={seen.sample}
        words={FIELD_WORDS}
        fieldOf={fieldOf}
        onAssign={assign}
        made={(raw, field) => madeOf(raw, field, profile)}
      />
    </ReadingFrame>
  );
}

/** What is made of a raw value, where that is not the same. */
function madeOf(raw: string, field: ReceiptField | '', profile: ReceiptProfile): string {
  const text = unwrap(raw);
  if (text === '') return '';
  if (AMOUNTS.some((one) => one === field)) {
    const parsed = parseLooseAmount(text, profile.currency, profile.decimal);
    const turned = field === 'fee' && profile.feeSign === 'minus';
    return parsed.ok ? formatAmount(turned ? negate(parsed.minor) : parsed.minor, profile.currency) : 'no amount';
  }
  if (field !== 'time') return '';
  const at = parseLooseInstant(text, profile.dateOrder, profile.zone)?.toISOString();
  const clock = text.includes(':') || text.includes('.5') ? `, ${at?.slice(11, 16)} UTC` : '';
  return at ? `${formatDate(plainDate(at.slice(0, 10)))}${clock}` : 'no date';
}
