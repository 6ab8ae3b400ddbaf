'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
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

/** Gifts with who was thanked for them; those that wait are thanked in one go. */
export function GiftList({ gifts, total }: { gifts: readonly GiftView[]; total: number }) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const [busy, setBusy] = useState(false);
  const waiting = gifts.filter((gift) => gift.thanked === 0 && gift.email !== '');
  const thank = async () => {
    setBusy(true);
    const answer = await thankNow(id, waiting.map((gift) => gift.id)); // prettier-ignore
    setBusy(false);
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <div className="surface">
      <table className="list" aria-label="Gifts">
        <thead>
          <tr>
            <th scope="col">Date</th>
            <th scope="col">Donor</th>
            <th scope="col">Fund</th>
            <th scope="col">Receipt</th>
            <th scope="col" className="num">
              Amount
            </th>
            <th scope="col">Thanked</th>
            <th scope="col">Year’s statement</th>
          </tr>
        </thead>
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
                    {/* prettier-ignore */}
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
        <Button
          size="sm"
          variant="primary"
          className="ms-auto"
          disabled={busy || waiting.length === 0}
          onClick={() => void thank()}
        >
          {/* prettier-ignore */}
          Thank for {plural(waiting.length, 'gift')} by mail
        </Button>
      </div>
    </div>
  );
}
