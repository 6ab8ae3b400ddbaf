'use client';

import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { Sheet } from '@/books/matching/sheet';
import { keptFor } from '@/books/matching/kept-for';
import type { SheetPart } from '@/books/matching/parts';
import type { EntryView } from '@/books/ledger/entry-view';
import { leftToExplain, type AccountId } from '@/core/ledger';
import { formatAmount, type Minor } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { useKey } from '@/ui/keys/keys';
import { EntryPreview } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import { useTrail } from '@/ui/parts/trail-amount';
import { confirmNow, previewConfirm, setLinesAsideNow } from '../actions';
import { AsideDialog } from '../collected/aside-dialog';
import { BookTo, type BookingLists } from './book-to';
import { FitsEqually } from './fits-equally';
import { PartPicker } from './part-picker';
import { PartsTable, SheetHead } from './sheet-parts';
import { SheetWhy } from './sheet-why';

/** What is booked to an account may stand there twice, under other dimensions. */
const same = (a: SheetPart, b: SheetPart) => a === b || (a.kind !== 'account' && a.kind === b.kind && a.id === b.id);

/** What the server is asked to confirm: the parts as laid, and where the rest goes. */
function inputOf(sheet: Sheet, parts: readonly SheetPart[], restTo: AccountId | null) {
  return {
    line: sheet.line.id,
    parts: parts.map(({ kind, id, net, detail }) =>
      kind === 'account'
        ? { kind, id, amount: net, ...detail }
        : kind === 'invoice'
          ? { kind, id, amount: net }
          : { kind, id },
    ),
    restTo,
  };
}

/** An invoice laid on the sheet settles what is open of it, or what is left of the deposit if that is less. */
function fitted(part: SheetPart, left: Minor): SheetPart {
  if (part.kind !== 'invoice' || part.part.kind !== 'invoice' || left <= 0 || part.net <= left) return part;
  return { ...part, note: 'part of what is open', gross: left, net: left, part: { ...part.part, applied: left } };
}

/** The sheet of the line in hand: parts, reasons, what is left to explain, and one key to confirm. */
export function WorkingSheet({ sheet, lists }: { sheet: Sheet; lists: BookingLists }) {
  const { accounts } = lists;
  const { id, currency } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const { open: openTrail } = useTrail();
  const [parts, setParts] = useState<readonly SheetPart[]>(sheet.parts);
  const [chosen, setRestTo] = useState<AccountId | null>(sheet.restTo);
  const [picking, setPicking] = useState(sheet.parts.length === 0 && sheet.others.length === 0);
  const [entry, setEntry] = useState<EntryView | null>(null);
  const [trouble, setTrouble] = useState<{ what: string; next: string } | null>(null);
  const [busy, setBusy] = useState(false);
  const [asking, setAsking] = useState(false);
  const [booking, setBooking] = useState(false);

  const rest = leftToExplain({ amount: sheet.line.amount, parts: parts.map((part) => part.part) });
  // What is kept is kept for somebody: without the one payer of the invoices it is to be booked otherwise.
  const payer = rest > 0 ? keptFor(parts) : null;
  const restTo = chosen === lists.payerCredit && payer === null ? null : chosen;
  const left = restTo === null ? rest : (0 as Minor);
  const laid = parts.length > 0 || restTo !== null;
  const change = (next: readonly SheetPart[]) => {
    setParts(next);
    setEntry(null);
    setTrouble(null);
  };
  const add = (part: SheetPart) => {
    if (parts.some((other) => same(other, part))) return;
    change([...parts, fitted(part, rest)]);
    if (part.restTo !== undefined && restTo === null) setRestTo(part.restTo);
  };
  const takeOff = (part: SheetPart) => change(parts.filter((other) => !same(other, part)));
  const book = (account: AccountId | null) => {
    setRestTo(account);
    setEntry(null);
    setTrouble(null);
  };

  const confirm = async () => {
    if (busy) return;
    setBusy(true);
    const answer = await confirmNow(id, inputOf(sheet, parts, rest === 0 ? null : restTo));
    setBusy(false);
    if (!answer.ok) return setTrouble(answer);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/banked`);
    router.refresh();
  };
  const setAside = async (reason: string) => {
    setAsking(false);
    const answer = await setLinesAsideNow(id, { ids: [sheet.line.id], reason });
    if (!answer.ok) return setTrouble(answer);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/banked`);
    router.refresh();
  };
  const showEntry = async () => {
    if (entry) return setEntry(null);
    const answer = await previewConfirm(id, inputOf(sheet, parts, rest === 0 ? null : restTo));
    if (answer.ok) setEntry(answer.value.entry);
    else setTrouble(answer);
  };
  useKey('c', 'confirm the sheet, once nothing is left to explain', () => void confirm());
  useKey('a', 'add or stop adding parts', () => setPicking((before) => !before));
  useKey('b', 'book some of it to an account', () => setBooking((before) => !before));
  useKey('e', 'show the entry', () => void showEntry());

  const feesAccount = accounts.find((account) => account.fees);
  const byScheduleNote =
    rest !== 0 &&
    restTo === feesAccount?.id &&
    parts.some((part) => part.feeFrom === 'schedule' || part.feeFrom === 'learnt')
      ? `${formatAmount(Math.abs(rest) as Minor, currency)} ${rest > 0 ? 'less' : 'more'} than the schedule says`
      : undefined;

  return (
    <article className="panel" aria-label="Working sheet">
      <SheetHead line={sheet.line} />
      <section className="flush">
        <PartsTable
          parts={parts}
          onTakeOff={takeOff}
          rest={
            rest === 0
              ? null
              : {
                  amount: rest,
                  note: byScheduleNote,
                  where: (
                    <label className="d-inline-flex gap-2 align-items-center">
                      {parts.length > 0 ? 'Book the rest as' : 'Book all of it as'}
                      <Form.Select
                        size="sm"
                        style={{ width: 'auto' }}
                        value={restTo ?? ''}
                        onChange={(event) =>
                          book(event.target.value === '' ? null : (Number(event.target.value) as AccountId))
                        }
                      >
                        <option value="">not yet</option>
                        {payer !== null ? <option value={lists.payerCredit}>kept for {payer.name}</option> : null}
                        {accounts.map((account) => (
                          <option key={account.id} value={account.id}>
                            {account.code} {account.name}
                          </option>
                        ))}
                      </Form.Select>
                    </label>
                  ),
                }
          }
        />
      </section>
      {picking ? <PartPicker line={sheet.line.id} laid={parts} onAdd={add} onTakeOff={takeOff} /> : null}
      {booking ? (
        <BookTo key={rest} lists={lists} date={sheet.line.date} text={sheet.line.text} left={rest} onAdd={add} />
      ) : null}
      <FitsEqually
        line={sheet.line.id}
        parts={inputOf(sheet, parts, null).parts}
        onExchange={(from, to) => change(parts.map((part) => (same(part, from) ? to : part)))}
      />
      <SheetWhy
        sheet={sheet}
        onLay={({ parts: way, restTo: to }) => {
          change(way);
          setRestTo(to);
        }}
      />
      {entry ? <EntryPreview entry={entry} title="Entry it will write" of={`line:${sheet.line.id}`} /> : null}
      {trouble ? (
        <section>
          <Notice kind="refused">
            {trouble.what} {trouble.next}
          </Notice>
        </section>
      ) : null}
      <div className={`left-to-explain${left === 0 && laid ? '' : ' rest'}`}>
        <div>
          <div className="fw-semibold">Left to explain</div>
          <div className="small soft">
            {left === 0 && laid ? 'nothing: it can be confirmed' : 'add parts, or book the rest to an account'}
          </div>
        </div>
        <output className="figure" aria-label="Left to explain">
          {money(left)}
        </output>
      </div>
      <div className="acts">
        <Button variant="primary" disabled={left !== 0 || !laid || busy} onClick={() => void confirm()}>
          Confirm<span className="key">c</span>
        </Button>
        <Button variant="plain" aria-expanded={picking} onClick={() => setPicking(!picking)}>
          Add parts<span className="key">a</span>
        </Button>
        <Button
          variant="plain"
          aria-expanded={entry !== null}
          disabled={left !== 0 || !laid}
          onClick={() => void showEntry()}
        >
          Entry<span className="key">e</span>
        </Button>
        <Button variant="plain" aria-expanded={booking} onClick={() => setBooking(!booking)}>
          Book to<span className="key">b</span>
        </Button>
        <Button variant="plain" onClick={() => setAsking(true)}>
          Set aside
        </Button>
        <Button variant="plain" onClick={() => openTrail(`line:${sheet.line.id}`)}>
          Trail<span className="key">t</span>
        </Button>
        <AsideDialog
          shown={asking}
          name="this line"
          means="Nothing is to be explained of it: it is money that these books do not keep. It stays in the list and in the bank’s balance."
          onHide={() => setAsking(false)}
          onReason={(reason) => void setAside(reason)}
        />
        <span className="end small soft">
          <span className="key ms-0">j</span> next line
        </span>
      </div>
    </article>
  );
}
