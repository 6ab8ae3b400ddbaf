'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { ConfirmedSheet } from '@/books/matching/confirmed';
import type { Sheet } from '@/books/matching/sheet';
import type { TakenApart } from '@/books/matching/take-apart';
import { formatDate, plainDate } from '@/core/calendar';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { useKey } from '@/ui/keys/keys';
import { AskFirst } from '@/ui/parts/ask-first';
import { BalanceMoves, EntryTable } from '@/ui/parts/entry';
import { Mark } from '@/ui/parts/mark';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { useTrail } from '@/ui/parts/trail-amount';
import { previewTakeApart, takeApartNow } from '../actions';
import { CountsTwice } from './counts-twice';
import { PartsTable, SheetHead } from './sheet-parts';

const FREED = {
  payout: ['payout', 'payouts'],
  receipt: ['receipt', 'receipts'],
  invoice: ['invoice', 'invoices'],
  line: ['other line', 'other lines'],
} as const;

function freedWords({ freed }: TakenApart): string {
  const words = (Object.keys(FREED) as (keyof typeof FREED)[])
    .filter((kind) => freed[kind] > 0)
    .map((kind) => `${freed[kind]} ${FREED[kind][freed[kind] === 1 ? 0 : 1]}`);
  return words.length === 0 ? 'No part becomes free.' : `Free again: ${words.join(', ')}.`;
}

/** A line that is explained: its parts, its entry, and the way to take it apart with the consequence shown first. */
export function ConfirmedSheetView({ sheet, confirmed }: { sheet: Sheet; confirmed: ConfirmedSheet }) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const { open: openTrail } = useTrail();
  const [shown, setShown] = useState<ActionAnswer<TakenApart> | null>(null);
  const ask = async () => setShown(await previewTakeApart(id, confirmed.match));
  const takeApart = async () => {
    const answer = await takeApartNow(id, confirmed.match);
    setShown(null);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/banked?line=${sheet.line.id}`);
    router.refresh();
  };
  useKey('x', 'take the match apart', () => void ask());
  const { rest, restAccount } = confirmed;
  const byRule = sheet.parts.some(({ detail }) => detail?.rule);
  const byHand = confirmed.certainty === 'by-hand' && !byRule;
  return (
    <article className="panel" aria-label="Confirmed sheet">
      <SheetHead line={sheet.line} />
      <section className="flush">
        <PartsTable
          parts={sheet.parts}
          rest={rest === 0 ? null : { amount: rest, where: `Rest, booked as ${restAccount}` }}
        />
      </section>
      {confirmed.doubled ? (
        <CountsTwice
          line={sheet.line.id}
          doubled={confirmed.doubled}
          booked={sheet.parts[0]?.title ?? `Booked to ${restAccount}`}
        />
      ) : null}
      <section>
        <Mark kind="matched">Matched</Mark> by {confirmed.actor}, {formatDate(plainDate(confirmed.at.slice(0, 10)))}
        {byHand ? ', put together by hand' : ''}
        {confirmed.because.length > 0 ? <div className="soft small">{confirmed.because.join('; ')}</div> : null}
      </section>
      <section aria-label="Entry it wrote">
        <h2>Journal {confirmed.journal.id}</h2>
        <EntryTable lines={confirmed.journal.lines} of={`line:${sheet.line.id}`} />
      </section>
      <div className="acts">
        <Button variant="plain" onClick={() => void ask()}>
          Take apart…<span className="key">x</span>
        </Button>
        <Button variant="plain" onClick={() => openTrail(`line:${sheet.line.id}`)}>
          Trail<span className="key">t</span>
        </Button>
      </div>
      <AskFirst
        id="apart-title"
        title="Take this match apart"
        shown={shown}
        act="Take apart"
        onLeave={() => setShown(null)}
        onAct={() => void takeApart()}
      >
        {(apart) => (
          <>
            <p>
              {money(apart.amount)} is to be explained again. {freedWords(apart)} The opposite entry is written:
            </p>
            <BalanceMoves moves={apart.moves} />
          </>
        )}
      </AskFirst>
    </article>
  );
}
