import type { ReactNode } from 'react';

/** A column of a plain table: its name alone, or how it stands there, `hidden` but for those who hear it; `acts` is the last one, of buttons. */
export type PlainHead =
  | string
  | { readonly name: string; readonly hidden?: boolean; readonly num?: boolean; readonly width?: number }
  | { readonly acts: true; readonly width?: number };

interface Props {
  readonly label: string;
  readonly heads: readonly PlainHead[];
  /** Rows, and what is to stand below them. */
  readonly children: ReactNode;
  readonly foot?: ReactNode;
}

function Head({ head }: { readonly head: PlainHead }) {
  if (typeof head === 'string') return <th scope="col">{head}</th>;
  const style = head.width === undefined ? undefined : { width: head.width };
  if ('acts' in head) {
    return (
      <th scope="col" style={style}>
        <span className="visually-hidden">Acts</span>
      </th>
    );
  }
  return (
    <th scope="col" className={head.num ? 'num' : undefined} style={style}>
      {head.hidden ? <span className="visually-hidden">{head.name}</span> : head.name}
    </th>
  );
}

/** The heads of a table. */
export function TableHeads({ heads }: { readonly heads: readonly PlainHead[] }) {
  return (
    <thead>
      <tr>
        {heads.map((head, index) => (
          <Head key={index} head={head} />
        ))}
      </tr>
    </thead>
  );
}

/** A table that is neither paged nor opened row by row. */
export function PlainTable({ label, heads, children, foot }: Props) {
  return (
    <div className="surface mb-3">
      <table className="list" aria-label={label}>
        <TableHeads heads={heads} />
        <tbody>{children}</tbody>
      </table>
      {foot}
    </div>
  );
}
