'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import { WEEKDAYS, type Schedule } from '@/books/fetching/schedule-input';
import { useBooks } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Notice } from '@/ui/parts/notice';
import { disconnectNow, setTimingNow } from '../../actions';

interface Props {
  readonly connection: number;
  readonly name: string;
  readonly address: string;
  /** A channel sends events; a bank does not. */
  readonly channel: boolean;
  readonly start: Schedule;
  readonly mailTo: string;
}

/** When a connection is fetched, and to whom its log goes. */
export function TimingForm({ connection, name, address, channel, start, mailTo }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const toasts = useToasts();
  const [timing, setTiming] = useState(start);
  const [to, setTo] = useState(mailTo);
  const [trouble, setTrouble] = useState('');
  const [ending, setEnding] = useState(false);
  const set = (more: Partial<Schedule>) => setTiming({ ...timing, ...more });
  const save = async () => {
    const answer = await setTimingNow(id, { connection, schedule: timing, mailTo: to.trim() });
    if (!answer.ok) return setTrouble(`${answer.what} ${answer.next}`);
    setTrouble('');
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  const end = async () => {
    const answer = await disconnectNow(id, { connection });
    if (!answer.ok) return setTrouble(`${answer.what} ${answer.next}`);
    if (answer.change) toasts.changed(answer.change);
    router.push(`/books/${id}/set-up/fetching`);
  };
  return (
    <section className="panel" aria-label={`When ${name} is fetched`}>
      <header>
        <div>
          <div className="name">{name}</div>
          <div className="small soft text-break">{address}</div>
        </div>
      </header>
      <section className="field-grid">
        <Form.Group controlId="timing-every">
          <Form.Label>Fetched</Form.Label>
          <Form.Select
            size="sm"
            value={timing.every}
            onChange={(event) => set({ every: event.target.value as Schedule['every'] })}
          >
            <option value="hand">by hand</option>
            <option value="day">each day</option>
            <option value="week">each week</option>
            <option value="month">each month</option>
          </Form.Select>
        </Form.Group>
        {timing.every === 'week' ? (
          <Form.Group controlId="timing-weekday">
            <Form.Label>On</Form.Label>
            <Form.Select
              size="sm"
              value={timing.weekday}
              onChange={(event) => set({ weekday: Number(event.target.value) })}
            >
              {WEEKDAYS.map((day, index) => (
                <option key={day} value={index + 1}>
                  {day}
                </option>
              ))}
            </Form.Select>
          </Form.Group>
        ) : null}
        {timing.every === 'month' ? (
          <Form.Group controlId="timing-monthday">
            <Form.Label>On day</Form.Label>
            <Form.Select
              size="sm"
              value={timing.monthday}
              onChange={(event) => set({ monthday: Number(event.target.value) })}
            >
              {Array.from({ length: 28 }, (_, index) => (
                <option key={index} value={index + 1}>
                  {index + 1}
                </option>
              ))}
              <option value={0}>the last</option>
            </Form.Select>
          </Form.Group>
        ) : null}
        {timing.every === 'hand' ? null : (
          <Form.Group controlId="timing-at">
            <Form.Label>At</Form.Label>
            <Form.Control
              size="sm"
              type="time"
              value={timing.at}
              onChange={(event) => set({ at: event.target.value })}
            />
          </Form.Group>
        )}
      </section>
      <section>
        {channel ? (
          <Form.Check
            type="switch"
            id="timing-events"
            className="mb-2"
            label="also when the channel says that something changed"
            checked={timing.onEvents}
            onChange={(event) => set({ onEvents: event.target.checked })}
          />
        ) : null}
        <Form.Group controlId="timing-mail">
          <Form.Label>Mail the log of each run to</Form.Label>
          <Form.Control
            size="sm"
            type="email"
            placeholder="nobody"
            value={to}
            onChange={(event) => setTo(event.target.value)}
          />
          <Form.Text>It is kept in the outbox under Stand-ins, and sent on where a mail server is set up.</Form.Text>
        </Form.Group>
        {trouble ? <Notice kind="refused">{trouble}</Notice> : null}
      </section>
      <div className="acts">
        <Button variant="primary" onClick={() => void save()}>
          Save
        </Button>
        <Link className="btn btn-plain" href={`/books/${id}/set-up/fetching`}>
          Leave it
        </Link>
        {ending ? (
          <Button variant="link" onClick={() => void end()}>
            End it: the log of its runs goes, what it brought in stays
          </Button>
        ) : (
          <Button variant="link" onClick={() => setEnding(true)}>
            Disconnect…
          </Button>
        )}
      </div>
    </section>
  );
}
