'use client';

import { useRouter } from 'next/navigation';
import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import { choicesFor } from '@/books/map/account-choices';
import type { MapPage } from '@/books/map/map-page';
import type { ReceiptDetail } from '@/books/receipts/detail';
import type { ChangeSince } from '@/books/receipts/take-change';
import type { Landing } from '@/core/map';
import type { Minor } from '@/core/money';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { AsideDialog } from './aside-dialog';
import { mapChoices, setAsideNow, setLandingNow, takeBackAsideNow, takeChangeNow } from '../actions';

/** What can be done with a receipt beside posting it: take over a change, set it aside, say where it lands. */
export function ReceiptState({ receipt }: { receipt: ReceiptDetail }) {
  const { id: books } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const money = useMoney();
  const [dialog, setDialog] = useState<'aside' | 'landing' | null>(null);
  const told = (answer: ActionAnswer<unknown>) => {
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    setDialog(null);
    router.refresh();
  };
  const { id, aside, journal, change } = receipt;
  return (
    <>
      {change ? (
        <section>
          <Notice kind="waits">
            <div className="mb-2">
              Changed since: {changeWords(receipt, change, money).join(', ')} in {change.file}.
            </div>
            <Button size="sm" variant="plain" onClick={() => void takeChangeNow(books, { receipt: id }).then(told)}>
              {journal === null ? 'Take the new figures over' : 'Reverse and post again with the new figures'}
            </Button>
          </Notice>
        </section>
      ) : null}
      {aside !== null ? (
        <section>
          <Notice kind="info">
            <div className="mb-2">✕ Set aside: {aside}. It is not posted with the others.</div>
            <Button size="sm" variant="plain" onClick={() => void takeBackAsideNow(books, { ids: [id] }).then(told)}>
              Take it back
            </Button>
          </Notice>
        </section>
      ) : null}
      {journal === null && aside === null ? (
        <section className="d-flex gap-2 flex-wrap">
          <Button size="sm" variant="plain" onClick={() => setDialog('landing')}>
            {Object.keys(receipt.landing).length > 0 ? 'Change where it lands…' : 'Land it elsewhere…'}
          </Button>
          <Button size="sm" variant="plain" onClick={() => setDialog('aside')}>
            Set aside…
          </Button>
        </section>
      ) : null}
      <AsideDialog
        shown={dialog === 'aside'}
        name={receipt.name}
        onHide={() => setDialog(null)}
        onReason={(reason) => void setAsideNow(books, { ids: [id], reason }).then(told)}
      />
      {dialog === 'landing' ? (
        <LandingDialog
          name={receipt.name}
          landing={receipt.landing}
          onHide={() => setDialog(null)}
          onLanding={(landing) => void setLandingNow(books, { receipt: id, landing }).then(told)}
        />
      ) : null}
    </>
  );
}

/** What differs, before → now. */
function changeWords(receipt: ReceiptDetail, change: ChangeSince, money: (amount: Minor) => string): string[] {
  const said = (amount: Minor | null) => (amount === null ? 'not stated' : money(amount));
  const differs = (what: string, was: Minor | null, is: Minor | null) =>
    was === is ? [] : [`${what} ${said(was)} → ${said(is)}`];
  return [
    ...(change.kind === receipt.kind ? [] : [`${receipt.kind} → ${change.kind}`]),
    ...differs('gross', receipt.gross, change.gross),
    ...differs('tip', receipt.tip, change.tip),
    ...differs('fee', receipt.fee, change.fee),
    ...(change.occurred_at === receipt.at ? [] : [`${receipt.at.slice(0, 16)} → ${change.occurred_at.slice(0, 16)}`]),
  ];
}

interface LandingProps {
  readonly name: string;
  readonly landing: Landing;
  readonly onHide: () => void;
  readonly onLanding: (landing: Landing) => void;
}

/** The first layer of the map: what is set on one receipt comes before every rule. */
function LandingDialog({ name, landing, onHide, onLanding }: LandingProps) {
  const { id: books } = useBooks();
  const [map, setMap] = useState<MapPage | null>(null);
  const [chosen, setChosen] = useState<Landing>(landing);
  useEffect(() => void mapChoices(books).then(setMap), [books]);
  const put = (field: 'income' | 'taxCode' | 'deposit' | 'fees', text: string) => {
    const { [field]: _before, ...rest } = chosen;
    setChosen(text === '' ? rest : { ...rest, [field]: Number(text) });
  };
  const putDimension = (dimension: number, text: string) => {
    const { [dimension]: _before, ...rest } = chosen.dimensions ?? {};
    const dimensions = text === '' ? rest : { ...rest, [dimension]: Number(text) };
    const { dimensions: _all, ...others } = chosen;
    setChosen(Object.keys(dimensions).length === 0 ? others : { ...others, dimensions });
  };
  const choice = (
    label: string,
    value: number | undefined,
    choices: readonly { readonly id: number; readonly name: string }[],
    set: (text: string) => void,
  ) => (
    <Form.Group key={label} controlId={`landing-${label}`} className="mb-2">
      <Form.Label>{label}</Form.Label>
      <Form.Select size="sm" value={value ?? ''} onChange={(event) => set(event.target.value)}>
        <option value="">as the map decides</option>
        {choices.map((one) => (
          <option key={one.id} value={one.id}>
            {one.name}
          </option>
        ))}
      </Form.Select>
    </Form.Group>
  );
  return (
    <Modal show onHide={onHide} aria-labelledby="landing-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="landing-title">
          Where {name} lands
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        {map ? (
          <>
            {choice('Income', chosen.income, choicesFor('income', map.accounts), (text) => put('income', text))}
            {choice('Tax code', chosen.taxCode, map.taxCodes, (text) => put('taxCode', text))}
            {choice('Deposited in', chosen.deposit, choicesFor('deposit', map.accounts), (text) =>
              put('deposit', text),
            )}
            {choice('Fee to', chosen.fees, choicesFor('fees', map.accounts), (text) => put('fees', text))}
            {map.dimensions.map((dimension) =>
              choice(
                dimension.name,
                chosen.dimensions?.[dimension.id],
                dimension.values.filter((value) => value.active === 1),
                (text) => putDimension(dimension.id, text),
              ),
            )}
          </>
        ) : (
          <p className="soft mb-0">Looking up accounts</p>
        )}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={onHide}>
          Leave it
        </Button>
        <Button variant="primary" disabled={map === null} onClick={() => onLanding(chosen)}>
          Set
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
