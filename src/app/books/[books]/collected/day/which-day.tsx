'use client';

import Link from 'next/link';
import { usePathname, useRouter } from 'next/navigation';
import Button from 'react-bootstrap/Button';
import Form from 'react-bootstrap/Form';
import type { DayDocument } from '@/books/receipts/day-document';
import { formatDate, formatLongDate, type PlainDate } from '@/core/calendar';
import { useBooks } from '@/ui/frame/books-context';
import { useKey } from '@/ui/keys/keys';

interface Props {
  readonly channels: readonly { readonly id: number; readonly name: string }[];
  readonly channel: number;
  readonly day: DayDocument;
}

/** Which channel's day is shown, and the ways to the days beside it. */
export function WhichDay({ channels, channel, day }: Props) {
  const { id } = useBooks();
  const router = useRouter();
  const pathname = usePathname();
  const to = (date: PlainDate, of = channel) => `${pathname}?channel=${of}&date=${date}`;
  const go = (date: PlainDate | null) => {
    if (date !== null) router.replace(to(date), { scroll: false });
  };
  useKey('[', 'the day before', () => go(day.before));
  useKey(']', 'the day after', () => go(day.after));
  return (
    <div className="page-head">
      <h1>
        {day.channel}, {formatLongDate(day.date)}
      </h1>
      <span className="not-printed d-inline-flex gap-2 align-items-center ms-auto flex-wrap">
        {channels.length > 1 ? (
          <Form.Select
            size="sm"
            aria-label="Channel"
            style={{ width: 'auto' }}
            value={channel}
            onChange={(event) => router.replace(`${pathname}?channel=${event.target.value}`, { scroll: false })}
          >
            {channels.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Form.Select>
        ) : null}
        {day.before ? <Link href={to(day.before)}>← {formatDate(day.before)}</Link> : null}
        <Form.Control
          size="sm"
          type="date"
          aria-label="Day"
          style={{ width: 'auto' }}
          defaultValue={day.date}
          onChange={(event) => {
            if (event.target.value) go(event.target.value as PlainDate);
          }}
        />
        {day.after ? <Link href={to(day.after)}>{formatDate(day.after)} →</Link> : null}
        <Button size="sm" variant="plain" onClick={() => window.print()}>
          Print
        </Button>
        <a
          className="btn btn-sm btn-plain"
          href={`/api/books/${id}/export/day?channel=${channel}&date=${day.date}`}
          download
        >
          Save as CSV
        </a>
      </span>
    </div>
  );
}
