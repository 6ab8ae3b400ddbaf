'use client';

import type { ReactNode } from 'react';
import Form from 'react-bootstrap/Form';
import type { DateOrder } from '@/formats/table/loose';
import type { Delimiter } from '@/formats/table/header';
import type { Encoding } from '@/formats/text';

export const DELIMITER_WORDS: Readonly<Record<Delimiter, string>> = {
  ',': 'commas',
  ';': 'semicolons',
  '\t': 'tabs',
  '|': 'bars',
};
export const ORDERS: Readonly<Record<DateOrder, string>> = {
  YMD: 'year, month, day',
  DMY: 'day, month, year',
  MDY: 'month, day, year',
  serial: 'as a spreadsheet’s numbers',
};
export const DECIMALS = { '.': 'point, 1,234.50', ',': 'comma, 1.234,50' } as const;
export const ENCODING_WORDS: Readonly<Record<Encoding, string>> = {
  auto: 'as its bytes say',
  'utf-8': 'UTF-8',
  'utf-16le': 'UTF-16, little end first',
  'utf-16be': 'UTF-16, big end first',
  'windows-1252': 'Windows-1252',
};

interface ChoiceProps<T extends string> {
  readonly id: string;
  readonly label: string;
  readonly value: T | '';
  readonly choices: Readonly<Partial<Record<T, string>>>;
  readonly onChoice: (value: T) => void;
}

/** One thing to be said of how a file is written. */
export function Choice<T extends string>({ id, label, value, choices, onChoice }: ChoiceProps<T>) {
  return (
    <Form.Group controlId={id}>
      <Form.Label className="small soft mb-1">{label}</Form.Label>
      <Form.Select size="sm" value={value} onChange={(event) => onChoice(event.target.value as T)}>
        {value === '' ? <option value="">choose…</option> : null}
        {Object.entries<string | undefined>(choices).map(([key, words]) => (
          <option key={key} value={key}>
            {words}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
}

interface ColumnsProps<F extends string> {
  readonly header: readonly string[];
  readonly sample: readonly (readonly string[])[];
  readonly words: Readonly<Record<F, string>>;
  readonly fieldOf: (column: string) => F | '';
  readonly onAssign: (column: string, field: F | '') => void;
  /** What is made of a raw value under a field; empty where it stays as it is. */
  readonly made: (raw: string, field: F | '') => ReactNode;
}

/** Each column of a file: what stands in it, what it is read as, what is made of it. */
export function ColumnsTable<F extends string>({ header, sample, words, fieldOf, onAssign, made }: ColumnsProps<F>) {
  return (
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
          {header.map((name, index) => (
            <tr key={`${name} ${index}`}>
              <td className="text-nowrap">{name || 'no name'}</td>
              <td>
                <Form.Select
                  size="sm"
                  style={{ width: '15rem' }}
                  aria-label={`Column ${name} is read as`}
                  value={fieldOf(name)}
                  onChange={(event) => onAssign(name, event.target.value as F | '')}
                >
                  <option value="">not needed</option>
                  {Object.entries<string>(words).map(([field, label]) => (
                    <option key={field} value={field}>
                      {label}
                    </option>
                  ))}
                </Form.Select>
              </td>
              <td className="wide">
                {sample.slice(0, 4).map((row, at) => {
                  const raw = row[index] ?? '';
                  const now = made(raw, fieldOf(name));
                  return raw.trim() === '' ? null : (
                    <div key={at} className="small">
                      <code>{raw}</code>
                      {now ? <> → {now}</> : null}
                    </div>
                  );
                })}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
