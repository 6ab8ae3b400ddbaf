'use client';

import Link from 'next/link';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import Modal from 'react-bootstrap/Modal';
import type { DepositIncomeGroup, TurnedIntoReceipts } from '@/books/matching/deposit-income';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { BalanceMoves } from '@/ui/parts/entry';
import { Notice } from '@/ui/parts/notice';
import type { ActionAnswer } from '@/ui/parts/action-answer';
import { previewTurnIntoReceipts } from './actions';

interface Props {
  readonly group: DepositIncomeGroup;
  readonly channels: readonly { readonly id: number; readonly name: string }[];
  readonly onHide: () => void;
  readonly onTurn: (channel: number) => void;
}

/** Asks by which channel deposits came, and says what moves by making them receipts. */
export function TurnDialog({ group, channels, onHide, onTurn }: Props) {
  const { id } = useBooks();
  const money = useMoney();
  const [channel, setChannel] = useState('');
  const [shown, setShown] = useState<ActionAnswer<TurnedIntoReceipts> | null>(null);
  const choose = async (value: string) => {
    setChannel(value);
    setShown(null);
    if (value === '') return;
    const matches = group.deposits.map(({ match }) => match);
    setShown(await previewTurnIntoReceipts(id, { matches, channel: Number(value) }));
  };
  return (
    <Modal show onHide={onHide} aria-labelledby="turn-title">
      <Modal.Header closeButton>
        <Modal.Title as="h2" id="turn-title">
          {group.name}: {plural(group.deposits.length, 'deposit')}, {money(group.amount)}
        </Modal.Title>
      </Modal.Header>
      <Modal.Body>
        <p>
          Each becomes a receipt of the day of its deposit, with the account, tax and dimensions it was booked with, and
          is matched with its deposit again.
        </p>
        {channels.length === 0 ? (
          <p>
            There is no channel yet that it can have come by.{' '}
            <Link href={`/books/${id}/set-up/channels`}>Open one first</Link>
          </p>
        ) : (
          <Form.Group controlId="turn-channel">
            <Form.Label>It came by</Form.Label>
            <Form.Select value={channel} autoFocus onChange={(event) => void choose(event.target.value)}>
              <option value="">choose a channel…</option>
              {channels.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        )}
        {shown?.ok === false ? (
          <Notice kind="refused">
            {shown.what} {shown.next}
          </Notice>
        ) : null}
        {shown?.ok ? (
          shown.value.moves.length === 0 ? (
            <p className="mt-3 mb-0">No balance moves by it.</p>
          ) : (
            <>
              <p className="mt-3">The account map adds what the deposits did not have, so these balances move:</p>
              <BalanceMoves moves={shown.value.moves} />
            </>
          )
        ) : null}
      </Modal.Body>
      <Modal.Footer>
        <Button variant="plain" onClick={onHide}>
          Leave them
        </Button>
        <Button variant="primary" disabled={!shown?.ok} onClick={() => onTurn(Number(channel))}>
          Turn into receipts
        </Button>
      </Modal.Footer>
    </Modal>
  );
}
