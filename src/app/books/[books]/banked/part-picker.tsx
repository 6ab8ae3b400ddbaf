'use client';

import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import Form from 'react-bootstrap/Form';
import type { Candidates } from '@/books/matching/candidates';
import type { SheetPart } from '@/books/matching/parts';
import { formatDay } from '@/core/calendar';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { findCandidates } from '../actions';

interface Props {
  readonly line: number;
  readonly laid: readonly SheetPart[];
  readonly onAdd: (part: SheetPart) => void;
  readonly onTakeOff: (part: SheetPart) => void;
}

const WAIT_FOR_TYPING = 200;

/** A list that narrows as one types a name, a number or an amount; Space puts a part on the sheet and takes it off. */
export function PartPicker({ line, laid, onAdd, onTakeOff }: Props) {
  const { id } = useBooks();
  const money = useMoney();
  const [text, setText] = useState('');
  const [found, setFound] = useState<Candidates | null>(null);
  const asked = useRef(0);
  useEffect(() => {
    const mine = ++asked.current;
    const timer = setTimeout(
      () => {
        void findCandidates(id, line, text).then((answer) => {
          if (asked.current === mine) setFound(answer);
        });
      },
      text === '' ? 0 : WAIT_FOR_TYPING,
    );
    return () => clearTimeout(timer);
  }, [id, line, text]);
  const groups = found
    ? ([
        ['Payouts on their way', found.payouts],
        ['Receipts that no payout carries', found.receipts],
        ['Open invoices', found.invoices],
        ['Lines of the bank that may belong to it', found.lines],
      ] as const)
    : [];
  const isLaid = (part: SheetPart) => laid.some((other) => other.kind === part.kind && other.id === part.id);
  return (
    <section aria-label="Parts to add">
      <Form.Control
        size="sm"
        type="search"
        value={text}
        onChange={(event) => setText(event.target.value)}
        placeholder="Name, number, note or amount"
        aria-label="Find a part by name, number, note or amount"
        onKeyDown={(event) => {
          if (event.key === 'Escape') event.currentTarget.blur();
        }}
      />
      <div className="picker mt-2">
        {found && groups.every(([, parts]) => parts.length === 0) ? (
          <p className="soft mb-0">{text === '' ? 'Nothing is free to be laid here.' : 'Nothing free is like this.'}</p>
        ) : null}
        {groups.map(([label, parts]) =>
          parts.length === 0 ? null : (
            <fieldset key={label}>
              <legend className="small fw-semibold mb-0 fs-6">{label}</legend>
              {parts.map((part) => (
                <label key={part.id} className="d-flex gap-2 py-1 border-bottom">
                  <input
                    type="checkbox"
                    checked={isLaid(part)}
                    onChange={(event) => (event.target.checked ? onAdd(part) : onTakeOff(part))}
                  />
                  <span className="flex-grow-1">
                    {part.title} <span className="soft small">{part.note}</span>
                  </span>
                  <span className="soft text-nowrap">{formatDay(part.date)}</span>
                  <span className="num" style={{ minWidth: 80 }}>
                    {money(part.net)}
                  </span>
                </label>
              ))}
            </fieldset>
          ),
        )}
        {found && found.notPosted > 0 ? (
          <p className="due mt-2 mb-0">
            {found.notPosted === 1
              ? '1 receipt that no payout carries is'
              : `${found.notPosted} receipts that no payout carries are`}{' '}
            not posted yet, so they are not offered.{' '}
            <Link href={`/books/${id}/collected?state=not-posted`}>Post them first</Link>
          </p>
        ) : null}
      </div>
    </section>
  );
}
