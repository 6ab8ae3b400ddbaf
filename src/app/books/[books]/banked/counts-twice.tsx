'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { DoubledSheet } from '@/books/doubled/list';
import type { Mended } from '@/books/doubled/mend';
import { formatDay } from '@/core/calendar';
import { sum } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { AskFirst } from '@/ui/parts/ask-first';
import { BalanceMoves } from '@/ui/parts/entry';
import { Mark } from '@/ui/parts/mark';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { denyDoubledNow, mendDoubledNow, previewMendDoubled } from '../actions';

interface Props {
  readonly line: number;
  readonly doubled: DoubledSheet;
  /** What the line is booked to now, in words. */
  readonly booked: string;
}

/** A deposit that is booked to income though something explains it: both named, and the mend in one step. */
export function CountsTwice({ line, doubled, booked }: Props) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const [shown, setShown] = useState<ActionAnswer<Mended> | null>(null);
  const [first, ...more] = doubled.parts;
  const name = more.length > 0 ? `${first!.title} and ${more.length} more` : first!.title;
  const net = sum(doubled.parts.map((part) => part.net));
  const told = async (answer: ActionAnswer<unknown>) => {
    setShown(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/banked?state=matched&line=${line}`);
    router.refresh();
  };
  return (
    <section className="why" aria-label="May count twice">
      <div>
        <h2>
          <Mark kind="look">May count twice</Mark>
        </h2>
        <p className="mb-1">
          {name} of {formatDay(first!.date)}, {money(net)}, explains this deposit:
        </p>
        <ul>
          {doubled.because.map((reason) => (
            <li key={reason}>{reason}</li>
          ))}
        </ul>
      </div>
      <div>
        <p>
          The deposit is {booked.charAt(0).toLowerCase() + booked.slice(1)}, so the same money stands in the books here
          and there.
        </p>
        <div className="d-flex gap-2">
          <Button variant="primary" size="sm" onClick={() => void previewMendDoubled(id, line).then(setShown)}>
            Count it once…
          </Button>
          <Button variant="plain" size="sm" onClick={() => void denyDoubledNow(id, line).then(told)}>
            It is other money
          </Button>
        </div>
      </div>
      <AskFirst
        id="twice-title"
        title="Count this deposit once"
        shown={shown}
        act="Count it once"
        onLeave={() => setShown(null)}
        onAct={() => void mendDoubledNow(id, line).then(told)}
      >
        {({ amount, moves }) => (
          <>
            <p>
              The booking of {money(amount)} to income is taken apart, and {name} confirmed in its place, in one change.
              What moves:
            </p>
            <BalanceMoves moves={moves} />
          </>
        )}
      </AskFirst>
    </section>
  );
}
