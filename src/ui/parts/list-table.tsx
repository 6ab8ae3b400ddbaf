'use client';

import { flexRender, getCoreRowModel, useReactTable, type ColumnDef } from '@tanstack/react-table';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useRef, useState, useTransition, type ReactNode } from 'react';
import type { TrailRef } from '@/books/trail/ref';
import { useKey } from '../keys/keys';
import { usePicks } from './picks';
import { useTrail } from './trail-amount';

declare module '@tanstack/react-table' {
  // eslint-disable-next-line @typescript-eslint/no-unused-vars
  interface ColumnMeta<TData, TValue> {
    readonly className?: string;
    readonly width?: number;
  }
}

interface Props<Row> {
  readonly label: string;
  readonly rows: readonly Row[];
  readonly columns: ColumnDef<Row>[];
  /** Cells of the totals row, one per column, of all that is filtered. */
  readonly totals: readonly ReactNode[];
  /** Address parameter that says which row is open. */
  readonly param: string;
  /** The row that is open although the address names none. */
  readonly opened?: number | null;
  readonly trailOf: (row: Row) => TrailRef;
  /** What a row is called, where rows can be picked. */
  readonly nameOf?: (row: Row) => string;
  /** A heading row before the first row of each group. */
  readonly groupOf?: (row: Row) => { readonly key: string; readonly head: ReactNode };
}

/**
 * A list with right-aligned figures, totals of what is filtered under a sticky head, and a row that moves with the
 * arrow keys or j and k and opens beside the list. Rows come a page at a time from the server.
 */
export function ListTable<Row extends { readonly id: number }>(props: Props<Row>) {
  const { rows, columns, param, trailOf, groupOf } = props;
  const router = useRouter();
  const pathname = usePathname();
  const search = useSearchParams();
  const [, startTransition] = useTransition();
  const { open: openTrail } = useTrail();
  const inAddress = Number(search.get(param) ?? props.opened ?? 0);
  // A row that was moved to counts at once, until the address has followed.
  const [moved, setMoved] = useState<{ readonly from: number; readonly to: number } | null>(null);
  const selected = moved?.from === inAddress ? moved.to : inAddress;
  const body = useRef<HTMLTableSectionElement>(null);

  const select = (id: number) => {
    setMoved({ from: inAddress, to: id });
    const next = new URLSearchParams(search);
    next.set(param, String(id));
    startTransition(() => router.replace(`${pathname}?${next}`, { scroll: false }));
    body.current?.querySelector(`[data-row="${id}"]`)?.scrollIntoView({ block: 'nearest' });
  };
  const move = (by: number) => {
    const at = rows.findIndex((row) => row.id === selected);
    const next = rows[Math.max(0, Math.min(rows.length - 1, at < 0 ? 0 : at + by))];
    if (next && next.id !== selected) select(next.id);
  };
  const current = rows.find((row) => row.id === selected);
  const picks = usePicks();
  useKey('j', 'next row', () => move(1));
  useKey('k', 'row before', () => move(-1));
  useKey('ArrowDown', 'next row', () => move(1));
  useKey('ArrowUp', 'row before', () => move(-1));
  useKey('t', 'trail of the row', () => {
    if (current) openTrail(trailOf(current));
  });

  const table = useReactTable({
    data: rows as Row[],
    columns,
    getCoreRowModel: getCoreRowModel(),
    getRowId: (row) => String(row.id),
  });
  let group: string | null = null;

  return (
    <>
      {picks ? <PickKey onPick={() => current && picks.toggle(current.id)} /> : null}
      <table className="list" role="grid" aria-label={props.label}>
        <thead>
          <tr>
            {picks ? (
              <th scope="col" style={{ width: 28 }}>
                <span className="visually-hidden">Picked</span>
              </th>
            ) : null}
            {table.getFlatHeaders().map((header) => (
              <th
                key={header.id}
                scope="col"
                className={header.column.columnDef.meta?.className}
                style={{ width: header.column.columnDef.meta?.width }}
              >
                {flexRender(header.column.columnDef.header, header.getContext())}
              </th>
            ))}
          </tr>
        </thead>
        <tbody ref={body}>
          <tr className="totals">
            {picks ? <td>{picks.picked.size > 0 ? picks.picked.size : ''}</td> : null}
            {props.totals.map((cell, index) => (
              <td key={index} className={columns[index]?.meta?.className?.includes('num') ? 'num' : ''}>
                {cell}
              </td>
            ))}
          </tr>
          {table.getRowModel().rows.flatMap((row) => {
            const heading = groupOf?.(row.original);
            const begins = heading !== undefined && heading.key !== group;
            group = heading?.key ?? null;
            return [
              ...(begins
                ? [
                    <tr key={`group-${heading.key}`} className="group">
                      <td colSpan={columns.length + (picks ? 1 : 0)}>{heading.head}</td>
                    </tr>,
                  ]
                : []),
              <tr
                key={row.id}
                data-row={row.id}
                aria-selected={row.original.id === selected}
                onClick={(event) => {
                  if (!(event.target as HTMLElement).closest('a, button, input')) select(row.original.id);
                }}
              >
                {picks ? (
                  <td>
                    <input
                      type="checkbox"
                      className="form-check-input m-0 align-middle"
                      aria-label={`Pick ${props.nameOf?.(row.original) ?? row.id}`}
                      checked={picks.picked.has(row.original.id)}
                      onChange={() => picks.toggle(row.original.id)}
                    />
                  </td>
                ) : null}
                {row.getVisibleCells().map((cell) => (
                  <td key={cell.id} className={cell.column.columnDef.meta?.className}>
                    {flexRender(cell.column.columnDef.cell, cell.getContext())}
                  </td>
                ))}
              </tr>,
            ];
          })}
        </tbody>
      </table>
    </>
  );
}

/** Space picks the row that is open, where rows can be picked. */
function PickKey({ onPick }: { onPick: () => void }) {
  useKey(' ', 'pick the row, or let it go', onPick);
  return null;
}

/** The first cell of a row: opens the row beside the list, by mouse or keyboard. */
export function OpenRow({ param, id, children }: { param: string; id: number; children: ReactNode }) {
  const router = useRouter();
  const pathname = usePathname();
  const search = useSearchParams();
  return (
    <button
      type="button"
      className="btn-quiet"
      onClick={() => {
        const next = new URLSearchParams(search);
        next.set(param, String(id));
        router.replace(`${pathname}?${next}`, { scroll: false });
      }}
    >
      {children}
    </button>
  );
}
