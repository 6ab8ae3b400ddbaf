'use client';

import Link from 'next/link';
import { useCallback, useMemo, useState, type ReactNode } from 'react';
import Offcanvas from 'react-bootstrap/Offcanvas';
import type { PostedJournal } from '@/books/ledger/entry-view';
import type { Trail, TrailStep } from '@/books/trail/trail';
import type { TrailRef } from '@/books/trail/ref';
import { formatDate } from '@/core/calendar';
import { useBooks, useMoney } from '../frame/books-context';
import { EntryTable } from './entry';
import { Notice } from './notice';
import { TrailContext } from './trail-amount';

/** Where a step's own page is. */
function pageOf(books: string, ref: TrailRef): string {
  const [kind, id] = ref.split(':');
  const page = {
    invoice: 'owed?invoice=',
    receipt: 'collected?receipt=',
    payout: 'in-transit?payout=',
    line: 'banked?state=all&line=',
  };
  return `/books/${books}/${page[kind as keyof typeof page]}${id}`;
}

function Step({ step, entered, onFollow }: { step: TrailStep; entered: boolean; onFollow: (ref: TrailRef) => void }) {
  const { id } = useBooks();
  const money = useMoney();
  const [journal, setJournal] = useState<PostedJournal | null>(null);
  const toggle = async () => {
    if (journal) return setJournal(null);
    const answer = await fetch(`/api/books/${id}/journal/${step.journal}`);
    if (answer.ok) setJournal((await answer.json()) as PostedJournal);
  };
  return (
    <div className={`step${entered ? ' entered' : ''}`}>
      <div className="d-flex justify-content-between gap-3">
        <span className="fw-semibold">
          {entered ? (
            step.title
          ) : (
            <button type="button" className="btn-quiet" onClick={() => onFollow(step.ref)}>
              {step.title}
            </button>
          )}
        </span>
        <span className="num">{money(step.amount)}</span>
      </div>
      <div className="d-flex justify-content-between gap-3 small">
        <span className="wide">{step.note}</span>
        <span className="num soft">
          {step.takenOff ? `fee ${money(step.takenOff)}, ` : ''}
          {formatDate(step.date)}
        </span>
      </div>
      <div className="small soft">{step.how}</div>
      <div className="small d-flex gap-3">
        <Link href={pageOf(id, step.ref)}>Open it</Link>
        {step.journal !== null ? (
          <button
            type="button"
            className="btn btn-link btn-sm p-0 small"
            aria-expanded={journal !== null}
            onClick={() => void toggle()}
          >
            Journal {step.journal}
          </button>
        ) : null}
      </div>
      {journal ? <EntryTable lines={journal.lines} of={step.ref} /> : null}
    </div>
  );
}

/** The trail drawer: the whole way of an amount, entered from any figure or with "t". */
export function TrailProvider({ children }: { children: ReactNode }) {
  const { id } = useBooks();
  const [shown, setShown] = useState(false);
  const [trail, setTrail] = useState<Trail | null>(null);
  const [trouble, setTrouble] = useState('');

  const open = useCallback(
    (ref: TrailRef) => {
      setShown(true);
      setTrouble('');
      fetch(`/api/books/${id}/trail?of=${ref}`)
        .then(async (answer) => {
          const body = (await answer.json()) as Trail & { what?: string };
          setTrail(answer.ok ? body : null);
          setTrouble(answer.ok ? '' : (body.what ?? ''));
        })
        .catch(() => setTrouble('The server does not answer. Check that it is running, then try again.'));
    },
    [id],
  );
  const drawer = useMemo(() => ({ open }), [open]);

  return (
    <TrailContext value={drawer}>
      {children}
      <Offcanvas show={shown} onHide={() => setShown(false)} placement="end" aria-labelledby="trail-title">
        <Offcanvas.Header closeButton>
          <Offcanvas.Title as="h2" id="trail-title">
            Trail{trail ? ` of ${trail.title}` : ''}
          </Offcanvas.Title>
        </Offcanvas.Header>
        <Offcanvas.Body>
          {trouble ? <Notice kind="refused">{trouble}</Notice> : null}
          {trail?.stops.map((stop) => (
            <section
              key={stop.station}
              className={`trail-stop${stop.steps.length > 0 ? ' reached' : ''}`}
              aria-label={stop.station}
            >
              <h3>{stop.station}</h3>
              {stop.steps.map((step) => (
                <Step key={step.ref} step={step} entered={step.ref === trail.entered} onFollow={open} />
              ))}
              {stop.more > 0 ? <div className="small soft">and {stop.more} more</div> : null}
              {stop.gap ? <div className="gap">{stop.gap}</div> : null}
            </section>
          ))}
        </Offcanvas.Body>
      </Offcanvas>
    </TrailContext>
  );
}
