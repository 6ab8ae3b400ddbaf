'use client';

import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { GivingContent } from '@/books/public/pages';
import { formatAmount, minor, parseAmount, writeAmount, type Minor } from '@/core/money';
import { AskForm, WhoFields, type Who } from '@/ui/public/ask-form';
import { useBegin } from '@/ui/public/use-begin';
import { useRequest } from '@/ui/public/use-request';
import { coveredNow, giveNow } from './actions';

interface Props {
  readonly books: string;
  readonly token: string;
  readonly offer: GivingContent;
  readonly currency: string;
}

/** What somebody gives, to what, and whether they say who they are. */
export function GiveForm({ books, token, offer, currency }: Props) {
  const request = useRequest();
  const [fund, setFund] = useState(offer.funds[0]!);
  const [amount, setAmount] = useState(offer.amounts[0] === undefined ? '' : writeAmount(offer.amounts[0], currency));
  const [every, setEvery] = useState<'once' | 'month'>('once');
  const [covers, setCovers] = useState(false);
  const [anonymous, setAnonymous] = useState(false);
  const [who, setWho] = useState<Who>({ name: '', email: '' });
  const [covered, setCovered] = useState<{ gift: number; pays: Minor } | null>(null);
  const { busy, refused, refuse, begin } = useBegin();
  const read = parseAmount(amount.trim(), currency);
  const gift = read.ok ? read.minor : null;
  const money = (of: Minor) => `${formatAmount(of, currency)} ${currency}`;
  useEffect(() => {
    let wanted = true;
    if (gift !== null)
      void coveredNow(books, token, gift).then(
        (pays) => wanted && setCovered(pays === null ? null : { gift, pays: minor(pays) }),
      );
    return () => {
      wanted = false;
    };
  }, [books, token, gift]);
  const more = covered && covered.gift === gift ? covered.pays : null;
  const pays = covers && more !== null ? more : gift;
  const give = () => {
    if (gift === null || gift < 100) return refuse(`Write an amount of at least 1.00 ${currency}.`);
    void begin(() =>
      giveNow(books, { token, request, fund, amount: gift, every, coversFee: covers, anonymous, ...who }),
    );
  };
  return (
    <AskForm
      send={`Give ${pays === null ? '' : money(pays)}${every === 'month' ? ' each month' : ''}`}
      busy={busy}
      refused={refused}
      onSend={give}
    >
      {offer.funds.length > 1 ? (
        <Form.Group controlId="give-fund" className="mb-3">
          <Form.Label>For</Form.Label>
          <Form.Select value={fund} onChange={(event) => setFund(event.target.value)}>
            {offer.funds.map((one) => (
              <option key={one}>{one}</option>
            ))}
          </Form.Select>
        </Form.Group>
      ) : (
        <p>For {fund}</p>
      )}
      <div className="d-flex gap-2 mb-2 flex-wrap">
        {offer.amounts.map((one) => (
          <Button
            key={one}
            variant={gift === one ? 'primary' : 'plain'}
            onClick={() => setAmount(writeAmount(one, currency))}
          >
            {money(one)}
          </Button>
        ))}
      </div>
      <Form.Group controlId="give-amount" className="mb-3">
        <Form.Label>Amount in {currency}</Form.Label>
        <Form.Control
          inputMode="decimal"
          className="num"
          style={{ maxWidth: 160 }}
          value={amount}
          onChange={(event) => setAmount(event.target.value)}
        />
      </Form.Group>
      {offer.monthly ? (
        <fieldset className="mb-3">
          <legend className="visually-hidden">How often</legend>
          <Form.Check
            type="radio"
            inline
            id="give-once"
            name="every"
            label="Once"
            checked={every === 'once'}
            onChange={() => setEvery('once')}
          />
          <Form.Check
            type="radio"
            inline
            id="give-month"
            name="every"
            label="Each month"
            checked={every === 'month'}
            onChange={() => setEvery('month')}
          />
        </fieldset>
      ) : null}
      <Form.Check
        id="give-covers"
        className="mb-3"
        label={
          gift !== null && more !== null
            ? `Pay the fee as well: ${money(minor(more - gift))}, so that all of ${money(gift)} arrives`
            : 'Pay the fee as well'
        }
        checked={covers}
        onChange={(event) => setCovers(event.target.checked)}
      />
      <Form.Check
        id="give-anonymous"
        className="mb-2"
        label="Without my name"
        checked={anonymous}
        onChange={(event) => setAnonymous(event.target.checked)}
      />
      {anonymous ? null : <WhoFields of="give" emailLabel="Email, for your receipt" who={who} onWho={setWho} />}
    </AskForm>
  );
}
