'use client';

import type { ColumnDef } from '@tanstack/react-table';
import type { PayoutListRow, PayoutTotals } from '@/books/payouts/list';
import { formatDay, formatWeekday, type PlainDate } from '@/core/calendar';
import { ListTable, OpenRow } from '@/ui/parts/list-table';
import { Sums } from '@/ui/parts/sums';
import { Mark } from '@/ui/parts/mark';
import { TrailAmount } from '@/ui/parts/trail-amount';

type Standing = Pick<PayoutListRow, 'banked' | 'seen' | 'expected' | 'difference'>;

export function PayoutState({ payout, today }: { payout: Standing; today: PlainDate }) {
  if (payout.banked !== null) return <Mark kind="matched">banked</Mark>;
  if (payout.seen) return <Mark kind="proposed">to confirm</Mark>;
  if (payout.expected < today) return <Mark kind="look">late</Mark>;
  if (payout.difference !== 0) return <Mark kind="look">differs</Mark>;
  return <Mark kind="new">on its way</Mark>;
}

export function PayoutList({
  rows,
  totals,
  today,
}: {
  rows: readonly PayoutListRow[];
  totals: PayoutTotals;
  today: PlainDate;
}) {
  const columns: ColumnDef<PayoutListRow>[] = [
    { header: 'State', cell: ({ row }) => <PayoutState payout={row.original} today={today} />, meta: { width: 100 } },
    {
      header: 'Payout',
      cell: ({ row }) => (
        <OpenRow param="payout" id={row.original.id}>
          {row.original.name}
        </OpenRow>
      ),
      meta: { className: 'text-nowrap' },
    },
    { header: 'Left', cell: ({ row }) => formatDay(row.original.date), meta: { className: 'text-nowrap', width: 66 } },
    {
      header: 'At the bank',
      cell: ({ row: { original: p } }) =>
        p.banked ? (
          formatDay(p.banked)
        ) : (
          <span className={p.expected < today && !p.seen ? 'due' : 'soft'}>expected {formatWeekday(p.expected)}</span>
        ),
      meta: { className: 'text-nowrap', width: 150 },
    },
    {
      header: 'Receipts',
      cell: ({ row: { original: p } }) =>
        p.notPosted > 0 ? (
          <span className="due">
            {p.receipts} ({p.notPosted} not posted)
          </span>
        ) : (
          p.receipts
        ),
      meta: { className: 'num', width: 70 },
    },
    {
      header: 'Gross',
      cell: ({ row }) => (
        <TrailAmount of={`payout:${row.original.id}`} amount={row.original.gross} currency={row.original.currency} />
      ),
      meta: { className: 'num', width: 90 },
    },
    {
      header: 'Fees',
      cell: ({ row }) => (
        <TrailAmount of={`payout:${row.original.id}`} amount={row.original.fee} currency={row.original.currency} />
      ),
      meta: { className: 'num', width: 70 },
    },
    {
      header: 'Net',
      cell: ({ row }) => (
        <TrailAmount of={`payout:${row.original.id}`} amount={row.original.net} currency={row.original.currency} />
      ),
      meta: { className: 'num', width: 90 },
    },
  ];
  return (
    <ListTable
      label="Payouts"
      rows={rows}
      columns={columns}
      totals={[
        `${totals.count} in all`,
        '',
        '',
        '',
        '',
        '',
        '',
        <Sums key="net" own={totals.net} others={totals.others.map((o) => [o.currency, o.net])} />,
      ]}
      param="payout"
      trailOf={(row) => `payout:${row.id}`}
    />
  );
}
