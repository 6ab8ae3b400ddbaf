'use client';

import type { ColumnDef } from '@tanstack/react-table';
import type { CountAndAmount } from '@/books/lists/page';
import type { CertaintyGroups, LineListRow } from '@/books/statements/list';
import { formatDay } from '@/core/calendar';
import { useMoney } from '@/ui/frame/books-context';
import { ListTable, OpenRow } from '@/ui/parts/list-table';
import { Mark } from '@/ui/parts/mark';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { CERTAINTY_MARKS } from './certainty';

interface Props {
  readonly rows: readonly LineListRow[];
  readonly totals: CountAndAmount;
  readonly groups: CertaintyGroups;
  readonly grouped: boolean;
  /** The line whose sheet is open. */
  readonly opened: number | null;
}

export function LineList({ rows, totals, groups, grouped, opened }: Props) {
  const money = useMoney();
  const columns: ColumnDef<LineListRow>[] = [
    { header: 'Date', cell: ({ row }) => formatDay(row.original.date), meta: { className: 'text-nowrap', width: 62 } },
    {
      header: 'Bank’s text',
      cell: ({ row: { original: line } }) => (
        <>
          <OpenRow param="line" id={line.id}>
            {line.aside ? `Set aside: ${line.aside}` : line.laid || line.counterparty || 'Statement line'}
          </OpenRow>
          <div className="sub">{line.text || line.reference}</div>
        </>
      ),
      meta: { className: 'wide' },
    },
    {
      header: 'Amount',
      cell: ({ row }) => <TrailAmount of={`line:${row.original.id}`} amount={row.original.amount} />,
      meta: { className: 'num', width: 90 },
    },
  ];
  return (
    <ListTable
      label="Statement lines"
      rows={rows}
      columns={columns}
      totals={[`${totals.count} in all`, '', money(totals.amount)]}
      param="line"
      opened={opened}
      trailOf={(row) => `line:${row.id}`}
      groupOf={
        grouped
          ? ({ certainty }) => {
              const key = certainty ?? 'none';
              const { kind, word } = CERTAINTY_MARKS[key];
              const { count, amount } = groups[key];
              return {
                key,
                head: (
                  <>
                    <Mark kind={kind}>{word}</Mark> · {count} · {money(amount)}
                  </>
                ),
              };
            }
          : undefined
      }
    />
  );
}
