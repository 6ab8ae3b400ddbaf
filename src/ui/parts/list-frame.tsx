'use client';

import Link from 'next/link';
import { usePathname, useRouter, useSearchParams } from 'next/navigation';
import { useRef, type ReactNode } from 'react';
import Form from 'react-bootstrap/Form';
import { useBooks } from '../frame/books-context';
import { useKey } from '../keys/keys';

export interface ChipChoice {
  readonly value: string;
  readonly label: string;
}

/** The address with one parameter set or taken out; a change of what is shown begins at the first page again. */
function withParam(search: URLSearchParams, name: string, value: string): string {
  const next = new URLSearchParams(search);
  if (value === '') next.delete(name);
  else next.set(name, value);
  next.delete('after');
  return `?${next}`;
}

/** Chips that choose what is shown and write it into the address. */
export function FilterChips({
  param,
  choices,
  label = 'What is shown',
  children,
}: {
  param: string;
  label?: string;
  choices: readonly ChipChoice[];
  children?: ReactNode;
}) {
  const search = useSearchParams();
  const pathname = usePathname();
  const current = search.get(param) ?? '';
  return (
    <nav className="chips" aria-label={label}>
      {choices.map(({ value, label }) => (
        <Link
          key={value}
          className="chip"
          aria-current={value === current ? 'true' : undefined}
          href={`${pathname}${withParam(search, param, value)}`}
          scroll={false}
        >
          {label}
        </Link>
      ))}
      {children}
    </nav>
  );
}

/** Looks for a text in the list; "/" goes there. */
export function FilterText({ label }: { label: string }) {
  const search = useSearchParams();
  const pathname = usePathname();
  const router = useRouter();
  const field = useRef<HTMLInputElement>(null);
  useKey('/', `look for ${label.toLowerCase()}`, () => field.current?.focus());
  const current = search.get('text') ?? '';
  return (
    <Form
      className="chip-search"
      role="search"
      onSubmit={(event) => {
        event.preventDefault();
        router.replace(`${pathname}${withParam(search, 'text', field.current?.value.trim() ?? '')}`, { scroll: false });
      }}
    >
      <Form.Control
        key={current}
        ref={field}
        size="sm"
        type="search"
        defaultValue={current}
        placeholder={label}
        aria-label={label}
        onKeyDown={(event) => {
          if (event.key === 'Escape') field.current?.blur();
        }}
      />
    </Form>
  );
}

/** The foot of a list: the next page, and the whole of what is shown as a file. */
export function ListFoot({
  shown,
  total,
  next,
  list,
}: {
  shown: number;
  total: number;
  next: string | null;
  list: string;
}) {
  const search = useSearchParams();
  const pathname = usePathname();
  const { id } = useBooks();
  const after = search.get('after');
  const address = (cursor: string | null) => {
    const params = new URLSearchParams(search);
    if (cursor === null) params.delete('after');
    else params.set('after', cursor);
    return `${pathname}?${params}`;
  };
  const filter = new URLSearchParams(search);
  for (const name of ['after', 'receipt', 'invoice', 'payout', 'line']) filter.delete(name);
  return (
    <div className="pager">
      <span>
        {shown} of {total}
      </span>
      {after ? <Link href={address(null)}>First page</Link> : null}
      {next ? <Link href={address(next)}>Next page</Link> : null}
      <a className="ms-auto" href={`/api/books/${id}/export/${list}?${filter}`} download>
        Export what is shown (CSV)
      </a>
    </div>
  );
}

/** Chooses what a register or a trial balance is shown under: a fund, a site; nothing where nothing is booked under any. */
export function UnderChips({ values }: { readonly values: readonly { readonly id: number; readonly name: string }[] }) {
  if (values.length === 0) return null;
  const choices = values.map(({ id, name }) => ({ value: String(id), label: name }));
  return <FilterChips param="value" label="Booked under" choices={[{ value: '', label: 'All' }, ...choices]} />;
}
