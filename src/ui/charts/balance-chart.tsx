'use client';

import { Line } from 'react-chartjs-2';
import type { DayBalance } from '@/books/proof/clearing';
import { formatDay } from '@/core/calendar';
import { minor } from '@/core/money';
import { useMoney } from '../frame/books-context';
import { useChartColours } from './setup';

/** An account's balance at the end of each day on which it moved. */
export function BalanceChart({ days, label }: { days: readonly DayBalance[]; label: string }) {
  const money = useMoney();
  const colours = useChartColours();
  if (days.length < 2) return <p className="soft">Nothing has moved here yet.</p>;
  const last = days.at(-1)!;
  return (
    <div style={{ height: 170 }}>
      {colours ? (
        <Line
          aria-label={`${label} by day; ${money(last.balance)} on ${formatDay(last.day)}`}
          data={{
            labels: days.map((day) => formatDay(day.day)),
            datasets: [
              {
                data: days.map((day) => day.balance / 100),
                borderColor: colours.main,
                borderWidth: 1.5,
                pointRadius: 0,
                pointHitRadius: 8,
                stepped: 'after',
              },
            ],
          }}
          options={{
            maintainAspectRatio: false,
            plugins: {
              tooltip: { callbacks: { label: (item) => money(minor(Math.round((item.parsed.y ?? 0) * 100))) } },
            },
            scales: {
              x: { ticks: { color: colours.ink, maxTicksLimit: 6, maxRotation: 0 }, grid: { display: false } },
              y: { ticks: { color: colours.ink, maxTicksLimit: 5 }, grid: { color: colours.line } },
            },
          }}
        />
      ) : null}
    </div>
  );
}
