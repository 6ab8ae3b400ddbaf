'use client';

import type { ColumnDef } from '@tanstack/react-table';
import type { ReceiptListRow, ReceiptTotals } from '@/books/receipts/list';
import { formatDay } from '@/core/calendar';
import { movementWord } from '@/core/channels';
import { useMoney } from '@/ui/frame/books-context';
import { ListTable, OpenRow } from '@/ui/parts/list-table';
import { Sums } from '@/ui/parts/sums';
import { Mark } from '@/ui/parts/mark';
import { TrailAmount } from '@/ui/parts/trail-amount';

export function ReceiptState({ journal, banked }: { journal: number | null; banked: boolean }) {
  if (journal === null) return <Mark kind={banked ? 'look' : 'new'}>not posted</Mark>;
  return banked ? <Mark kind="matched">banked</Mark> : <Mark kind="posted">posted</Mark>;
}

export function ReceiptList({ rows, totals }: { rows: readonly ReceiptListRow[]; totals: ReceiptTotals }) {
  const money = useMoney();
  const columns: ColumnDef<ReceiptListRow>[] = [
    {
      header: 'State',
      cell: ({ row }) => <ReceiptState journal={row.original.journal} banked={row.original.banked === 1} />,
      meta: { width: 96 },
    },
    { header: 'Date', cell: ({ row }) => formatDay(row.original.date), meta: { className: 'text-nowrap', width: 62 } },
    {
      header: 'Id',
      cell: ({ row }) => (
        <OpenRow param="receipt" id={row.original.id}>
          {row.original.name}
        </OpenRow>
      ),
      meta: { className: 'text-nowrap', width: 70 },
    },
    {
      header: 'Payer, for',
      cell: ({ row: { original: r } }) => (
        <>
          {r.payer ?? <span className="soft">no name</span>}
          <span className="soft">
            ,{' '}
            {[
              r.kind === 'receipt' ? '' : movementWord(r.kind, r.channelKind === 'debit-bureau').toLowerCase(),
              r.document || r.item || r.fund,
              r.note,
            ]
              .filter(Boolean)
              .join(', ') || 'paid sale'}
          </span>
        </>
      ),
      meta: { className: 'one-line' },
    },
    {
      header: 'Gross',
      cell: ({ row }) => (
        <TrailAmount of={`receipt:${row.original.id}`} amount={row.original.gross} currency={row.original.currency} />
      ),
      meta: { className: 'num', width: 88 },
    },
    {
      header: 'Fee',
      cell: ({ row }) =>
        row.original.fee === null ? (
          <span className="soft" title="The channel did not state a fee">
            not stated
          </span>
        ) : (
          <TrailAmount of={`receipt:${row.original.id}`} amount={row.original.fee} currency={row.original.currency} />
        ),
      meta: { className: 'num', width: 76 },
    },
    {
      header: 'Payout',
      cell: ({ row }) => row.original.payout || <span className="soft">none yet</span>,
      meta: { className: 'text-nowrap', width: 70 },
    },
  ];
  return (
    <ListTable
      label="Receipts"
      rows={rows}
      columns={columns}
      totals={[
        `${totals.count} in all`,
        '',
        '',
        '',
        <Sums key="gross" own={totals.gross} others={totals.others.map((o) => [o.currency, o.gross])} />,
        totals.fee === 0 ? '' : money(totals.fee),
        '',
      ]}
      param="receipt"
      trailOf={(row) => `receipt:${row.id}`}
      nameOf={(row) => row.name}
    />
  );
}
