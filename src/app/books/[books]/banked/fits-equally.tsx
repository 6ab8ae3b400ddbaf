'use client';

import { useEffect, useState } from 'react';
import type { SheetPart } from '@/books/matching/parts';
import type { Twins } from '@/books/matching/twins';
import { useBooks } from '@/ui/frame/books-context';
import { Mark } from '@/ui/parts/mark';
import { findTwins } from '../actions';

interface Props {
  readonly line: number;
  readonly parts: readonly unknown[];
  /** Lays another in the place of a part. */
  readonly onExchange: (from: SheetPart, to: SheetPart) => void;
}

/** Says, before a sheet is confirmed, which parts others would fit in the place of, and what tells them apart. */
export function FitsEqually({ line, parts, onExchange }: Props) {
  const { id } = useBooks();
  const [found, setFound] = useState<readonly Twins[]>([]);
  const asked = JSON.stringify(parts);
  useEffect(() => {
    let wanted = true;
    void findTwins(id, line, JSON.parse(asked)).then((twins) => {
      if (wanted) setFound(twins);
    });
    return () => {
      wanted = false;
    };
  }, [id, line, asked]);
  if (found.length === 0) return null;
  return (
    <section aria-label="Fits equally">
      <h2>
        <Mark kind="look">Fits equally</Mark>, to the cent: choose by what tells them apart
      </h2>
      <ul className="small mb-0">
        {found.map(({ part, tells, others, more }) => (
          <li key={`${part.kind}/${part.id}`}>
            {part.title}, {tells}, is laid
            <ul>
              {others.map((other) => (
                <li key={other.part.id}>
                  {other.part.title}, {other.tells}{' '}
                  <button
                    type="button"
                    className="btn btn-link btn-sm p-0"
                    aria-label={`Lay ${other.part.title} instead`}
                    onClick={() => onExchange(part, other.part)}
                  >
                    Lay it instead
                  </button>
                </li>
              ))}
              {more > 0 ? <li className="soft">and {more} more</li> : null}
            </ul>
          </li>
        ))}
      </ul>
    </section>
  );
}
