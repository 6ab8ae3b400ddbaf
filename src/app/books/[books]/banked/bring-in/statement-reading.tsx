'use client';

import { useState } from 'react';
import { formatDate, plainDate } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { plural } from '@/core/words';
import { STATEMENT_FIELDS, type StatementField, type StatementProfile } from '@/formats/statements/profile';
import type { SniffedStatement } from '@/formats/statements/sniff';
import { parseLooseAmount, parseLooseInstant, unwrap } from '@/formats/table/loose';
import type { ReadingFormProps } from '@/ui/parts/bring-in-read';
import { CurrencyOfAll, ReadingFrame, WrittenChoices } from '@/ui/parts/reading-frame';
import { Choice, ColumnsTable } from '@/ui/parts/reading-parts';

/** What a column can be read as; several may be the bank’s text. */
const WORDS: Readonly<Record<StatementField | 'text', string>> = {
  booked: 'day it was booked',
  value: 'value day',
  amount: 'amount, with its sign',
  paidIn: 'money in',
  paidOut: 'money out',
  mark: 'whether in or out',
  balance: 'balance after it',
  text: 'the bank’s text',
  counterparty: 'other party',
  reference: 'reference',
  bankId: 'bank’s id of the line',
  currency: 'currency',
  account: 'our account',
};
const AMOUNTS: readonly string[] = ['amount', 'paidIn', 'paidOut', 'balance'];
const MARKS = { in: 'came in', out: 'went out' } as const;

interface Props extends ReadingFormProps<SniffedStatement, StatementProfile> {
  readonly accounts: readonly { readonly iban: string; readonly name: string }[];
}

function madeOf(raw: string, field: StatementField | 'text' | '', profile: StatementProfile): string {
  const text = unwrap(raw);
  if (text === '') return '';
  if (AMOUNTS.includes(field)) {
    const parsed = parseLooseAmount(text, profile.currency, profile.decimal);
    return parsed.ok ? formatAmount(parsed.minor, profile.currency) : 'no amount';
  }
  if (field !== 'booked' && field !== 'value') return '';
  const at = parseLooseInstant(text, profile.dateOrder, 'UTC')?.toISOString();
  return at ? formatDate(plainDate(at.slice(0, 10))) : 'no date';
}

/** How a bank’s table is read: each column with what stands in it and what is made of it, to be corrected before it comes in. */
export function StatementReading({
  file,
  seen,
  start,
  confirmed,
  busy,
  accounts,
  onRead,
  onLookAgain,
  onLeave,
}: Props) {
  const [profile, setProfile] = useState(start);
  const [orderSaid, setOrderSaid] = useState(confirmed || !seen.ambiguousDates);
  const { columns, texts } = profile;
  const set = (more: Partial<StatementProfile>) => setProfile({ ...profile, ...more });
  const fieldOf = (name: string) =>
    texts.includes(name) ? 'text' : (STATEMENT_FIELDS.find((field) => columns[field] === name) ?? '');
  const assign = (name: string, field: StatementField | 'text' | '') => {
    const kept = Object.entries(columns).filter(([key, column]) => column !== name && key !== field);
    const words = texts.filter((text) => text !== name);
    set({
      columns: Object.fromEntries(field === '' || field === 'text' ? kept : [...kept, [field, name]]),
      texts: field === 'text' ? [...words, name] : words,
    });
  };
  const missing = [
    ...(columns.booked === undefined ? ['which column has the day'] : []),
    ...((columns.amount ?? columns.paidIn ?? columns.paidOut) === undefined ? ['which column has the amount'] : []),
    ...(columns.account === undefined && profile.account === '' ? ['which account it is of'] : []),
    ...(orderSaid ? [] : ['whether day or month comes first in its dates']),
  ];
  return (
    <ReadingFrame
      file={file}
      has={`${plural(seen.rows, 'line')}, ${profile.newestFirst ? 'the newest first' : 'the oldest first'}${start.above > 0 ? `; ${plural(start.above, 'row')} above the header passed over` : ''}`}
      missing={missing}
      busy={busy}
      onRead={() => onRead(profile)}
      onLeave={onLeave}
    >
      <section className="d-flex gap-3 flex-wrap align-items-end">
        {columns.account === undefined ? (
          <Choice
            id="reading-account"
            label="Account"
            value={profile.account}
            choices={Object.fromEntries(accounts.map(({ iban, name }) => [iban, name]))}
            onChoice={(account) => set({ account })}
          />
        ) : null}
        <WrittenChoices
          profile={profile}
          orderSaid={orderSaid}
          onOrder={() => setOrderSaid(true)}
          onChange={set}
          onLookAgain={onLookAgain}
        />
        {columns.currency === undefined ? (
          <CurrencyOfAll of="lines" value={profile.currency} onChange={(currency) => set({ currency })} />
        ) : null}
        {columns.mark === undefined
          ? null
          : seen.marks.map(({ value, count }) => (
              <Choice
                key={value}
                id={`mark-${value}`}
                label={`“${value}”, ${plural(count, 'line')}`}
                value={profile.outs.includes(value) ? 'out' : 'in'}
                choices={MARKS}
                onChoice={(way) => {
                  const others = profile.outs.filter((one) => one !== value);
                  set({ outs: way === 'out' ? [...others, value] : others });
                }}
              />
            ))}
      </section>
      <ColumnsTable
        header={seen.header}
        sample={seen.sample}
        words={WORDS}
        fieldOf={fieldOf}
        onAssign={assign}
        made={(raw, field) => madeOf(raw, field, profile)}
      />
    </ReadingFrame>
  );
}
