'use client';

import { useEffect, useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { StatementRuleInput } from '@/books/matching/rule-input';
import type { RuleRow, Tried } from '@/books/matching/statement-rules';
import { parseAmount, writeAmount, type Minor } from '@/core/money';
import type { TextCondition } from '@/core/matching';
import { useBooks } from '@/ui/frame/books-context';
import { Notice } from '@/ui/parts/notice';
import type { BookingLists } from '../book-to';
import { BookingFields, type Booking } from '../booking-fields';
import { tryStatementRuleNow } from './actions';
import { RuleNumbers, type NumberField } from './rule-numbers';
import { HOW_WORDS } from './rule-words';
import { TriedView } from './tried-view';

interface Props {
  /** Null for a new rule. */
  readonly rule: RuleRow | null;
  readonly text: string;
  readonly lists: BookingLists;
  readonly banks: readonly { readonly id: number; readonly code: string; readonly name: string }[];
  readonly onKeep: (input: StatementRuleInput) => Promise<{ readonly what: string; readonly next: string } | null>;
  readonly onLeave: () => void;
}

const WAIT_FOR_TYPING = 300;
const NO_TEXT: TextCondition = { how: 'words', text: '' };

/** One rule: when it applies, where it books, and beside it what it would take of all that ever came in. */
export function RuleForm({ rule, text, lists, banks, onKeep, onLeave }: Props) {
  const { id, currency } = useBooks();
  const written = (amount: Minor | undefined) => (amount === undefined ? '' : writeAmount(amount, currency));
  const [name, setName] = useState(rule?.name ?? '');
  const [texts, setTexts] = useState<readonly TextCondition[]>(rule?.conditions.texts ?? [{ ...NO_TEXT, text }]);
  const [sign, setSign] = useState(rule?.conditions.sign ?? '');
  const [from, setFrom] = useState(written(rule?.conditions.amountFrom));
  const [to, setTo] = useState(written(rule?.conditions.amountTo));
  const [bank, setBank] = useState(String(rule?.conditions.accounts?.[0] ?? ''));
  const [booking, setBooking] = useState<Booking>({
    account: String(rule?.result.account ?? ''),
    tax: String(rule?.result.taxCode ?? ''),
    payer: rule?.payer ?? null,
    dimensions: rule?.result.dimensions ?? {},
  });
  const { account, tax, payer, dimensions } = booking;
  const [numbers, setNumbers] = useState<readonly NumberField[]>(
    (rule?.result.byNumber ?? []).map((one) => ({ number: one.number, account: String(one.account) })),
  );
  const [tried, setTried] = useState<Tried | null>(null);
  const [trouble, setTrouble] = useState<{ what: string; next: string } | null>(null);

  const minor = (said: string) => {
    const parsed = said.trim() === '' ? null : parseAmount(said.trim(), currency);
    return parsed?.ok ? parsed.minor : undefined;
  };
  const input = (active: boolean): StatementRuleInput => ({
    id: rule?.id ?? null,
    name: name.trim() || texts[0]?.text || 'Rule',
    active,
    conditions: {
      texts: texts.filter((one) => one.text.trim() !== ''),
      sign: sign === 'in' || sign === 'out' ? sign : undefined,
      amountFrom: minor(from),
      amountTo: minor(to),
      accounts: bank === '' ? undefined : [Number(bank)],
    },
    result: {
      account: Number(account) || 0,
      dimensions,
      taxCode: tax === '' ? null : Number(tax),
      payer: payer?.id ?? null,
      byNumber: numbers
        .filter((one) => one.number.trim() !== '' && one.account !== '')
        .map((one) => ({ number: one.number, account: Number(one.account) })),
    },
  });
  const asked = JSON.stringify(input(true));
  useEffect(() => {
    let wanted = true;
    const timer = setTimeout(() => {
      void tryStatementRuleNow(id, JSON.parse(asked)).then((found) => {
        if (wanted) setTried(found);
      });
    }, WAIT_FOR_TYPING);
    return () => {
      wanted = false;
      clearTimeout(timer);
    };
  }, [id, asked]);
  const keep = async (active: boolean) => {
    if (account === '')
      return setTrouble({ what: 'The rule does not say where it books.', next: 'Choose the account.' });
    setTrouble(await onKeep(input(active)));
  };
  const setText = (index: number, more: Partial<TextCondition>) =>
    setTexts(texts.map((one, at) => (at === index ? ({ ...one, ...more } as TextCondition) : one)));
  return (
    <section className="panel mb-3" aria-label={rule ? `Rule ${rule.name}` : 'New rule'}>
      <section className="d-flex flex-wrap gap-3 align-items-end">
        <Form.Group controlId="rule-name">
          <Form.Label className="small soft mb-1">Name</Form.Label>
          <Form.Control
            size="sm"
            autoFocus
            maxLength={80}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </Form.Group>
        {texts.map((one, index) => (
          <div key={index} className="d-flex gap-1 align-items-end">
            <Form.Group controlId={`rule-how-${index}`} style={{ flex: '0 0 9.5rem' }}>
              <Form.Label className="small soft mb-1">{index === 0 ? 'The bank’s text' : 'and'}</Form.Label>
              <Form.Select
                size="sm"
                value={one.how}
                onChange={(event) => setText(index, { how: event.target.value as TextCondition['how'] })}
              >
                {Object.entries(HOW_WORDS).map(([how, words]) => (
                  <option key={how} value={how}>
                    {words}
                  </option>
                ))}
              </Form.Select>
            </Form.Group>
            <Form.Control
              size="sm"
              aria-label={`Text ${index + 1}`}
              placeholder={one.how === 'pattern' ? 'RENT * ###/2026' : ''}
              value={one.text}
              onChange={(event) => setText(index, { text: event.target.value })}
            />
          </div>
        ))}
        <Button variant="link" size="sm" onClick={() => setTexts([...texts, NO_TEXT])}>
          and another text
        </Button>
      </section>
      <section className="d-flex flex-wrap gap-3 align-items-end">
        <Form.Group controlId="rule-sign">
          <Form.Label className="small soft mb-1">Money</Form.Label>
          <Form.Select size="sm" value={sign} onChange={(event) => setSign(event.target.value)}>
            <option value="">in or out</option>
            <option value="in">that came in</option>
            <option value="out">that went out</option>
          </Form.Select>
        </Form.Group>
        <Form.Group controlId="rule-from" style={{ width: '6.5rem' }}>
          <Form.Label className="small soft mb-1">From</Form.Label>
          <Form.Control size="sm" className="num" value={from} onChange={(event) => setFrom(event.target.value)} />
        </Form.Group>
        <Form.Group controlId="rule-to" style={{ width: '6.5rem' }}>
          <Form.Label className="small soft mb-1">Up to</Form.Label>
          <Form.Control size="sm" className="num" value={to} onChange={(event) => setTo(event.target.value)} />
        </Form.Group>
        {banks.length > 1 ? (
          <Form.Group controlId="rule-bank">
            <Form.Label className="small soft mb-1">On</Form.Label>
            <Form.Select size="sm" value={bank} onChange={(event) => setBank(event.target.value)}>
              <option value="">any bank account</option>
              {banks.map((one) => (
                <option key={one.id} value={one.id}>
                  {one.code} {one.name}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        ) : null}
        <BookingFields name="rule" accountLabel="is booked to" lists={lists} value={booking} onChange={setBooking} />
      </section>
      <RuleNumbers numbers={numbers} lists={lists} onChange={setNumbers} />
      {tried ? <TriedView tried={tried} /> : null}
      {trouble ? (
        <section>
          <Notice kind="refused">
            {trouble.what} {trouble.next}
          </Notice>
        </section>
      ) : null}
      <div className="acts">
        <Button variant="primary" onClick={() => void keep(true)}>
          {rule?.active ? 'Keep' : 'Switch it on'}
        </Button>
        <Button variant="plain" onClick={() => void keep(false)}>
          {rule?.active ? 'Switch it off' : 'Keep it off'}
        </Button>
        <Button variant="plain" onClick={onLeave}>
          Leave it
        </Button>
      </div>
    </section>
  );
}
