'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Mark } from '@/ui/parts/mark';
import { ImportList } from '../../lists/import-list';
import { keepNow, removeNow } from './actions';
import { fieldsFor, type ListChoices, type ListName, type RowField } from './row-fields';
import { RowForm } from './row-form';

const TABLES = { items: 'item', 'tax-codes': 'tax_code', terms: 'terms' } as const;

export type ListRow = Readonly<Record<string, unknown>> & { readonly id: number; readonly archived: 0 | 1 };

interface Props {
  readonly list: ListName;
  readonly noun: string;
  readonly rows: readonly ListRow[];
  readonly choices: ListChoices;
}

/** How a cell of the list reads. */
function cell(field: RowField, row: ListRow, currency: string): string {
  const value = row[field.name];
  if (value === null || value === undefined || value === '') return '';
  switch (field.kind) {
    case 'percent':
      return value === 0 ? '' : `${(value as number) / 100} %`;
    case 'amount':
      return `${((value as number) / 100).toFixed(2)} ${currency}`;
    case 'choice':
      return field.choices?.find((one) => one.value === String(value))?.label ?? '';
    default:
      return String(value);
  }
}

/** One list of the books: looked through, added to, changed, archived, removed while nothing names it. */
export function ListView({ list, noun, rows, choices }: Props) {
  const { id, currency } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const fields = fieldsFor(list, choices);
  const [text, setText] = useState('');
  const [archived, setArchived] = useState(false);
  const [open, setOpen] = useState<ListRow | 'new' | null>(null);
  const wanted = text.trim().toLowerCase();
  const shown = rows.filter(
    (row) =>
      (archived || row.archived === 0) &&
      (wanted === '' || fields.some((field) => cell(field, row, currency).toLowerCase().includes(wanted))),
  );
  const told = (answer: Awaited<ReturnType<typeof keepNow>> | Awaited<ReturnType<typeof removeNow>>) => {
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    setOpen(null);
    router.refresh();
  };
  const archive = async (row: ListRow) =>
    told(await keepNow(id, list, { ...row, archived: row.archived === 1 ? 0 : 1 }));
  return (
    <>
      <div className="chips">
        <Button size="sm" variant="primary" onClick={() => setOpen('new')}>
          New {noun}
        </Button>
        <ImportList list={list} />
        <a className="btn btn-plain btn-sm" href={`/api/books/${id}/export/${list}`} download>
          Export (CSV)
        </a>
        <Form.Check
          id="archived"
          label="archived too"
          checked={archived}
          onChange={(event) => setArchived(event.target.checked)}
        />
        {/* prettier-ignore */}
        <Form.Control
          className="chip-search"
          size="sm"
          type="search"
          aria-label="Look through the list"
          placeholder="Look through the list"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      </div>
      <div className="surface">
        <table className="list" aria-label={`List of ${list.replace('-', ' ')}`}>
          <thead>
            <tr>
              {fields.map(({ name, label, kind }) => (
                <th
                  scope="col"
                  key={name}
                  className={kind === 'amount' || kind === 'days' || kind === 'percent' ? 'num' : ''}
                >
                  {label}
                </th>
              ))}
              <th scope="col">
                <span className="visually-hidden">Acts</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {shown.map((row) => (
              <tr key={row.id}>
                {fields.map((field, index) => (
                  <td
                    key={field.name}
                    className={
                      field.kind === 'amount' || field.kind === 'days' || field.kind === 'percent' ? 'num' : ''
                    }
                  >
                    {/* prettier-ignore */}
                    {index === 0 ? (
                      <Button variant="link" size="sm" className="p-0" onClick={() => setOpen(row)}>
                        {cell(field, row, currency)}
                      </Button>
                    ) : (
                      cell(field, row, currency)
                    )}
                    {index === 0 && row.archived === 1 ? <Mark kind="aside">archived</Mark> : null}
                  </td>
                ))}
                <td className="text-end text-nowrap">
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0 me-2"
                    aria-label={`${row.archived === 1 ? 'Bring back' : 'Archive'} ${cell(fields[0]!, row, currency)}`}
                    onClick={() => void archive(row)}
                  >
                    {/* prettier-ignore */}
                    {row.archived === 1 ? 'Bring back' : 'Archive'}
                  </Button>
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0"
                    aria-label={`Remove ${cell(fields[0]!, row, currency)}`}
                    onClick={() => void removeNow(id, { table: TABLES[list], id: row.id }).then(told)}
                  >
                    {/* prettier-ignore */}
                    Remove
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {shown.length === 0 ? (
          <p className="soft p-2 mb-0">{rows.length === 0 ? `No ${noun} yet.` : `No ${noun} is like this.`}</p>
        ) : null}
      </div>
      {open ? (
        <RowForm
          title={open === 'new' ? `New ${noun}` : `Change ${cell(fields[0]!, open, currency)}`}
          fields={fields}
          row={open === 'new' ? null : open}
          onHide={() => setOpen(null)}
          onKeep={async (row) => told(await keepNow(id, list, { ...row, id: open === 'new' ? null : open.id, archived: open === 'new' ? 0 : open.archived }))} // prettier-ignore
        />
      ) : null}
    </>
  );
}
