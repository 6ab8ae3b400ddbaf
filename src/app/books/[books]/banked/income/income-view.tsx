'use client';

import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Fragment, useState } from 'react';
import Button from 'react-bootstrap/Button';
import type { DepositIncomeGroup } from '@/books/matching/deposit-income';
import { formatDate, formatDay } from '@/core/calendar';
import { sum } from '@/core/money';
import { plural } from '@/core/words';
import { useBooks, useMoney } from '@/ui/frame/books-context';
import { useToasts } from '@/ui/frame/toasts';
import { Empty } from '@/ui/parts/notice';
import { PlainTable } from '@/ui/parts/plain-table';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { turnIntoReceiptsNow } from './actions';
import { TurnDialog } from './turn-dialog';

interface Props {
  readonly groups: readonly DepositIncomeGroup[];
  readonly channels: readonly { readonly id: number; readonly name: string }[];
}

const BY_WORDS = { payer: 'payer', rule: 'statement rule', wording: 'the bank’s wording' } as const;
const SHOWN = 50;

/** Income that was booked from deposits alone, by payer or platform, and the way from there to receipts. */
export function DepositIncomeView({ groups, channels }: Props) {
  const { id } = useBooks();
  const money = useMoney();
  const router = useRouter();
  const toasts = useToasts();
  const [open, setOpen] = useState<number | null>(null);
  const [turning, setTurning] = useState<DepositIncomeGroup | null>(null);
  const turn = async (channel: number) => {
    const matches = turning!.deposits.map(({ match }) => match);
    setTurning(null);
    const answer = await turnIntoReceiptsNow(id, { matches, channel });
    if (!answer.ok) return toasts.refused(answer.what, answer.next);
    if (answer.change) toasts.changed(answer.change);
    router.refresh();
  };
  return (
    <>
      <div className="page-head">
        <h1>Income from deposits alone</h1>
        <span className="soft">booked straight from the bank, with no receipt behind it</span>
      </div>
      {groups.length === 0 ? (
        <Empty title="No income was booked from a deposit alone">
          <p>
            Where books need no receipts, a deposit is booked as income by a statement rule or on its sheet, with the
            payer it is from. It stands here then, and can become a receipt later.
          </p>
          <Link className="btn btn-plain" href={`/books/${id}/banked/rules`}>
            To the statement rules
          </Link>
        </Empty>
      ) : (
        <PlainTable
          label="Income from deposits alone"
          heads={[
            'From',
            { name: 'Known by', width: 150 },
            { name: 'Days', width: 190 },
            { name: 'Deposits', num: true, width: 80 },
            { name: 'Amount', num: true, width: 110 },
            { acts: true, width: 160 },
          ]}
          foot={
            <div className="d-flex px-2 py-2 small">
              <a className="ms-auto" href={`/api/books/${id}/export/deposit-income`} download>
                Export what is shown (CSV)
              </a>
            </div>
          }
        >
          {groups.map((group, index) => (
            <Fragment key={`${group.by}/${group.name}/${index}`}>
              <tr>
                <td className="wide">
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0 text-start"
                    aria-expanded={open === index}
                    onClick={() => setOpen(open === index ? null : index)}
                  >
                    {group.name}
                  </Button>
                </td>
                <td>{BY_WORDS[group.by]}</td>
                <td className="text-nowrap">
                  {group.first === group.last
                    ? formatDate(group.first)
                    : `${formatDay(group.first)} to ${formatDate(group.last)}`}
                </td>
                <td className="num">{group.deposits.length}</td>
                <td className="num">{money(group.amount)}</td>
                <td className="text-end text-nowrap">
                  <Button
                    variant="link"
                    size="sm"
                    className="p-0"
                    aria-label={`Turn ${group.name} into receipts`}
                    onClick={() => setTurning(group)}
                  >
                    Turn into receipts…
                  </Button>
                </td>
              </tr>
              {open === index
                ? group.deposits.slice(0, SHOWN).map((deposit) => (
                    <tr key={deposit.match}>
                      <td className="wide ps-4">
                        <Link href={`/books/${id}/banked?state=matched&line=${deposit.line}`}>{deposit.text}</Link>
                      </td>
                      <td className="soft">{deposit.account}</td>
                      <td>{formatDate(deposit.date)}</td>
                      <td />
                      <td className="num">
                        <TrailAmount of={`line:${deposit.line}`} amount={deposit.amount} />
                      </td>
                      <td />
                    </tr>
                  ))
                : null}
              {open === index && group.deposits.length > SHOWN ? (
                <tr>
                  <td colSpan={6} className="soft ps-4">
                    and {plural(group.deposits.length - SHOWN, 'deposit')} before
                  </td>
                </tr>
              ) : null}
            </Fragment>
          ))}
          <tr className="totals">
            <td colSpan={3}>{groups.length} in all</td>
            <td className="num">{groups.reduce((count, { deposits }) => count + deposits.length, 0)}</td>
            <td className="num">{money(sum(groups.map(({ amount }) => amount)))}</td>
            <td />
          </tr>
        </PlainTable>
      )}
      {turning ? (
        <TurnDialog
          group={turning}
          channels={channels}
          onHide={() => setTurning(null)}
          onTurn={(channel) => void turn(channel)}
        />
      ) : null}
    </>
  );
}
