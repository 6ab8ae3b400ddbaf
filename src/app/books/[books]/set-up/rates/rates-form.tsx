'use client';

import { plural } from '@/core/words';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { readRateLines } from '@/books/currencies/rate-lines';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { setRatesNow } from '../../actions';

/** Takes rates as they are typed or pasted, a line each. */
export function RatesForm({ base }: { base: string }) {
  const { id, today } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [text, setText] = useState('');
  const read = readRateLines(text);
  const keep = async () => {
    if ('unread' in read) return;
    const answer = await setRatesNow(id, { rates: read.rates });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    setText('');
    router.refresh();
  };
  return (
    <section className="panel" aria-label="Enter rates">
      <section>
        <h2>Enter rates</h2>
        <p className="soft small">
          A line each: the day, the currency, and what one of it is in {base}. A rate holds for its day and, where none
          follows, for the ten days after. What is posted already stays at its rate.
        </p>
        <Form.Control
          as="textarea"
          rows={6}
          aria-label="Rates, a line each"
          placeholder={`${today} GBP 1.1700`}
          value={text}
          isInvalid={'unread' in read}
          onChange={(event) => setText(event.target.value)}
        />
        <Form.Control.Feedback type="invalid">
          {'unread' in read ? `“${read.unread}” is no rate. Write it like ${today} GBP 1.1700.` : ''}
        </Form.Control.Feedback>
      </section>
      <div className="acts">
        <Button variant="primary" disabled={'unread' in read || read.rates.length === 0} onClick={() => void keep()}>
          Keep {'rates' in read && read.rates.length > 0 ? plural(read.rates.length, 'rate') : 'them'}
        </Button>
      </div>
    </section>
  );
}
