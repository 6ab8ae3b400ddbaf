'use client';

import type { ColumnDef } from '@tanstack/react-table';
import type { InvoiceListRow, InvoiceTotals } from '@/books/invoices/list';
import { formatDay } from '@/core/calendar';
import { useMoney } from '@/ui/frame/books-context';
import { ListTable, OpenRow } from '@/ui/parts/list-table';
import { Mark } from '@/ui/parts/mark';
import { TrailAmount } from '@/ui/parts/trail-amount';

export function InvoiceState({ state }: { state: InvoiceListRow['state'] }) {
  switch (state) {
    case 'new':
      return <Mark kind="new">not posted</Mark>;
    case 'posted':
      return <Mark kind="posted">open</Mark>;
    case 'partly-paid':
      return <Mark kind="partly">part paid</Mark>;
    case 'paid':
      return <Mark kind="matched">paid</Mark>;
    case 'overdue':
      return <Mark kind="look">overdue</Mark>;
    case 'void':
      return <Mark kind="aside">void</Mark>;
  }
}

export function InvoiceList({ rows, totals }: { rows: readonly InvoiceListRow[]; totals: InvoiceTotals }) {
  const money = useMoney();
  const columns: ColumnDef<InvoiceListRow>[] = [
    { header: 'State', cell: ({ row }) => <InvoiceState state={row.original.state} />, meta: { width: 96 } },
    {
      header: 'Number',
      cell: ({ row }) => (
        <OpenRow param="invoice" id={row.original.id}>
          {row.original.number}
        </OpenRow>
      ),
      meta: { className: 'text-nowrap', width: 100 },
    },
    { header: 'Payer', accessorKey: 'payer', meta: { className: 'one-line' } },
    {
      header: 'Issued',
      cell: ({ row }) => formatDay(row.original.date),
      meta: { className: 'text-nowrap', width: 70 },
    },
    { header: 'Due', cell: ({ row }) => formatDay(row.original.due), meta: { className: 'text-nowrap', width: 70 } },
    {
      header: 'Gross',
      cell: ({ row }) => <TrailAmount of={`invoice:${row.original.id}`} amount={row.original.gross} />,
      meta: { className: 'num', width: 100 },
    },
    {
      header: 'Open',
      cell: ({ row }) => <TrailAmount of={`invoice:${row.original.id}`} amount={row.original.open} />,
      meta: { className: 'num', width: 100 },
    },
  ];
  return (
    <ListTable
      label="Invoices"
      rows={rows}
      columns={columns}
      totals={[`${totals.count} in all`, '', '', '', '', money(totals.gross), money(totals.open)]}
      param="invoice"
      trailOf={(row) => `invoice:${row.id}`}
      nameOf={(row) => row.number}
    />
  );
}
