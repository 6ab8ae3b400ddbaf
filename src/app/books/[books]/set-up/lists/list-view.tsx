'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Mark } from '@/ui/parts/mark';
import { ImportList } from '../../lists/import-list';
import { keepNow, mergeItemsNow, partItemsNow, removeNow } from './actions';
import { MergeItem } from './merge-item';
import { fieldsFor, type ListChoices, type ListName, type RowField } from './row-fields';
import { RowForm } from './row-form';

const TABLES = { items: 'item', 'tax-codes': 'tax_code', terms: 'terms' } as const;

export type ListRow = Readonly<Record<string, unknown>> & {
  readonly id: number;
  readonly archived: 0 | 1;
  /** The code of the item that is used in its place. */
  readonly mergedInto?: string;
};

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
  const [merging, setMerging] = useState<ListRow | null>(null);
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
    setMerging(null);
    router.refresh();
  };
  const archive = async (row: ListRow) =>
    told(await keepNow(id, list, { ...row, archived: row.archived === 1 ? 0 : 1 }));
  const acts = (row: ListRow): [string, () => void][] => [
    row.mergedInto
      ? ['Part', () => void partItemsNow(id, { item: row.id }).then(told)]
      : [row.archived === 1 ? 'Bring back' : 'Archive', () => void archive(row)],
    ...(list === 'items' && row.archived === 0 ? ([['Merge', () => setMerging(row)]] as [string, () => void][]) : []),
    ['Remove', () => void removeNow(id, { table: TABLES[list], id: row.id }).then(told)],
  ];
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
                    {index === 0 ? (
                      <Button variant="link" size="sm" className="p-0" onClick={() => setOpen(row)}>
                        {cell(field, row, currency)}
                      </Button>
                    ) : (
                      cell(field, row, currency)
                    )}
                    {index === 0 && row.archived === 1 ? (
                      <Mark kind="aside">{row.mergedInto ? `merged into ${row.mergedInto}` : 'archived'}</Mark>
                    ) : null}
                  </td>
                ))}
                <td className="text-end text-nowrap">
                  {acts(row).map(([label, act]) => (
                    <Button
                      key={label}
                      variant="link"
                      size="sm"
                      className="p-0 ms-2"
                      aria-label={`${label} ${cell(fields[0]!, row, currency)}`}
                      onClick={act}
                    >
                      {label}
                    </Button>
                  ))}
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {shown.length === 0 ? (
          <p className="soft p-2 mb-0">{rows.length === 0 ? `No ${noun} yet.` : `No ${noun} is like this.`}</p>
        ) : null}
      </div>
      {merging ? (
        <MergeItem
          item={merging}
          others={rows.filter((row) => row.archived === 0 && row.id !== merging.id)}
          onHide={() => setMerging(null)}
          onMerge={async (into) => told(await mergeItemsNow(id, { from: merging.id, into }))}
        />
      ) : null}
      {open ? (
        <RowForm
          title={open === 'new' ? `New ${noun}` : `Change ${cell(fields[0]!, open, currency)}`}
          fields={fields}
          row={open === 'new' ? null : open}
          onHide={() => setOpen(null)}
          onKeep={async (row) =>
            told(
              await keepNow(id, list, {
                ...row,
                id: open === 'new' ? null : open.id,
                archived: open === 'new' ? 0 : open.archived,
              }),
            )
          }
        />
      ) : null}
    </>
  );
}
