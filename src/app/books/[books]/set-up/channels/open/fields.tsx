'use client';

import Form from 'react-bootstrap/Form';
import type { AccountChoiceInput } from '@/books/channels/channel-settings';
import type { AccountId } from '@/core/ledger';
import { parseAmount, writeAmount, type Currency, type Minor } from '@/core/money';
import { useState } from 'react';

/** A text with its label above it. */
export function TextField({
  label,
  value,
  hint,
  onText,
}: {
  label: string;
  value: string;
  hint?: string;
  onText: (text: string) => void;
}) {
  return (
    <Form.Group controlId={`field-${label}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control size="sm" value={value} placeholder={hint} onChange={(event) => onText(event.target.value)} />
    </Form.Group>
  );
}

/** An amount or percentage as text, taken over once it can be read. */
export function AmountField({
  label,
  value,
  currency,
  onAmount,
}: {
  label: string;
  value: Minor;
  currency: Currency;
  onAmount: (amount: Minor) => void;
}) {
  const [text, setText] = useState(writeAmount(value, currency));
  const parsed = parseAmount(text.trim() || '0', currency);
  return (
    <Form.Group controlId={`field-${label}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Control
        size="sm"
        inputMode="decimal"
        value={text}
        isInvalid={!parsed.ok || parsed.minor < 0}
        onChange={(event) => {
          setText(event.target.value);
          const read = parseAmount(event.target.value.trim() || '0', currency);
          const taken = read.ok && read.minor >= 0;
          // A form is not sent off while it cannot be read.
          event.target.setCustomValidity(taken ? '' : 'Write it like 0.25.');
          if (taken) onAmount(read.minor);
        }}
      />
      <Form.Control.Feedback type="invalid">Write it like 0.25.</Form.Control.Feedback>
    </Form.Group>
  );
}

interface ChoiceFieldProps {
  readonly label: string;
  readonly value: number | null;
  readonly choices: readonly { readonly id: number; readonly name: string }[];
  /** What choosing none means; null where one must be chosen. */
  readonly none: string | null;
  readonly onChoice: (choice: number | null) => void;
}

/** One of a short list, or none. */
export function ChoiceField({ label, value, choices, none, onChoice }: ChoiceFieldProps) {
  return (
    <Form.Group controlId={`field-${label}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Select
        size="sm"
        value={value ?? ''}
        onChange={(event) => onChoice(event.target.value === '' ? null : Number(event.target.value))}
      >
        {none === null ? null : <option value="">{none}</option>}
        {choices.map((choice) => (
          <option key={choice.id} value={choice.id}>
            {choice.name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

interface RadioFieldProps<V extends string> {
  readonly name: string;
  readonly value: V | undefined;
  readonly choices: readonly (readonly [V, string])[];
  readonly onChoice: (choice: V) => void;
}

/** One of a few that are all in view. */
export function RadioField<V extends string>({ name, value, choices, onChoice }: RadioFieldProps<V>) {
  return choices.map(([choice, label]) => (
    <Form.Check
      key={choice}
      type="radio"
      id={`${name}-${choice}`}
      name={name}
      label={label}
      checked={value === choice}
      onChange={() => onChoice(choice)}
    />
  ));
}

interface AccountFieldProps {
  readonly label: string;
  readonly value: AccountChoiceInput | null;
  readonly choices: readonly { readonly id: AccountId; readonly name: string }[];
  /** What would be made, where none of the accounts fits. */
  readonly make: { readonly code: string; readonly name: string };
  /** Null where the channel must have one. */
  readonly none: string | null;
  readonly onChoice: (choice: AccountChoiceInput | null) => void;
}

/** An account that is there, one to be made with a code and a name of its own, or none. */
export function AccountField({ label, value, choices, make, none, onChoice }: AccountFieldProps) {
  const making = value !== null && 'make' in value ? value.make : null;
  return (
    <Form.Group controlId={`field-${label}`}>
      <Form.Label>{label}</Form.Label>
      <Form.Select
        size="sm"
        value={value === null ? '' : making ? 'make' : String((value as { use: number }).use)}
        onChange={(event) => {
          const chosen = event.target.value;
          onChoice(chosen === '' ? null : chosen === 'make' ? { make } : { use: Number(chosen) as AccountId });
        }}
      >
        {none === null ? null : <option value="">{none}</option>}
        {choices.map((choice) => (
          <option key={choice.id} value={choice.id}>
            {choice.name}
          </option>
        ))}
        <option value="make">make a new one</option>
      </Form.Select>
      {making ? (
        <div className="d-flex gap-1 mt-1">
          <Form.Control
            size="sm"
            style={{ width: '5rem' }}
            aria-label={`Code of the new account for ${label}`}
            value={making.code}
            onChange={(event) => onChoice({ make: { ...making, code: event.target.value } })}
          />
          <Form.Control
            size="sm"
            aria-label={`Name of the new account for ${label}`}
            value={making.name}
            onChange={(event) => onChoice({ make: { ...making, name: event.target.value } })}
          />
        </div>
      ) : null}
    </Form.Group>
  );
}
