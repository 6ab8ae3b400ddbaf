'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useRef, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { GiftView } from '@/books/by-hand/thank';
import { formatDate } from '@/core/calendar';
import { sum } from '@/core/money';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Mark } from '@/ui/parts/mark';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { thankNow } from '../key/actions';
import { TableHeads } from '@/ui/parts/plain-table';

/** Letters are written a few at a time: each has a receipt to print, and others want to write to the books meanwhile. */
const AT_ONCE = 10;

/** Gifts with who was thanked for them; those that wait are thanked in one go. */
export function GiftList({ gifts, total }: { gifts: readonly GiftView[]; total: number }) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const [thanked, setThanked] = useState<number | null>(null);
  const stopped = useRef(false);
  const waiting = gifts.filter((gift) => gift.thanked === 0 && gift.email !== '');
  const thank = async () => {
    stopped.current = false;
    const ids = waiting.map((gift) => gift.id);
    for (let at = 0; at < ids.length && !stopped.current; at += AT_ONCE) {
      setThanked(at);
      const answer = await thankNow(id, ids.slice(at, at + AT_ONCE));
      if (!answer.ok) {
        toasts.refused(answer.what, answer.next);
        break;
      }
      if (answer.change) toasts.changed(answer.change);
    }
    setThanked(null);
    router.refresh();
  };
  return (
    <div className="surface">
      <table className="list" aria-label="Gifts">
        <TableHeads
          heads={['Date', 'Donor', 'Fund', 'Receipt', { name: 'Amount', num: true }, 'Thanked', 'Year’s statement']}
        />
        <tbody>
          {gifts.map((gift) => (
            <tr key={gift.id}>
              <td className="text-nowrap">{formatDate(gift.date)}</td>
              <td>
                {gift.payerId === null ? (
                  <span className="soft">no name</span>
                ) : (
                  <Link href={`/books/${id}/owed/payers/${gift.payerId}`}>{gift.payer}</Link>
                )}
              </td>
              <td>{gift.fund}</td>
              <td>
                <Link href={`/books/${id}/collected?receipt=${gift.id}`}>{gift.reference}</Link>
              </td>
              <td className="num">
                <TrailAmount of={`receipt:${gift.id}`} amount={gift.amount} />
              </td>
              <td>
                {gift.thanked === 1 ? (
                  <Mark kind="posted">thanked</Mark>
                ) : gift.email === '' ? (
                  <span className="soft">no email</span>
                ) : (
                  <Mark kind="new">not yet</Mark>
                )}
              </td>
              <td>
                {gift.payerId === null ? null : (
                  <a
                    href={`/api/books/${id}/payers/${gift.payerId}/gifts?year=${gift.date.slice(0, 4)}`}
                    aria-label={`Gifts of ${gift.payer} in ${gift.date.slice(0, 4)} (PDF)`}
                  >
                    {gift.date.slice(0, 4)} (PDF)
                  </a>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <div className="pager">
        <span>
          {gifts.length} of {total}, {money(sum(gifts.map(({ amount }) => amount)))}
        </span>
        {thanked === null ? (
          <Button
            size="sm"
            variant="primary"
            className="ms-auto"
            disabled={waiting.length === 0}
            onClick={() => void thank()}
          >
            Thank for {plural(waiting.length, 'gift')} by mail
          </Button>
        ) : (
          <span className="ms-auto" role="status">
            {thanked} of {waiting.length} thanked{' '}
            <Button size="sm" variant="plain" onClick={() => (stopped.current = true)}>
              Stop
            </Button>
          </span>
        )}
      </div>
    </div>
  );
}
