'use client';

import { Bar } from 'react-chartjs-2';
import { AGEING_SPANS, type AgeingSpan } from '@/core/receivables';
import { minor, type Minor } from '@/core/money';
import { useMoney } from '../frame/books-context';
import { useChartColours } from './setup';

/** What is open by how long it has been due; its table is below it. */
export function AgeingChart({ totals }: { totals: Readonly<Record<AgeingSpan, Minor>> }) {
  const money = useMoney();
  const colours = useChartColours();
  if (!colours) return null;
  return (
    <div style={{ height: 190 }} aria-hidden="true">
      <Bar
        data={{
          labels: AGEING_SPANS.map(({ label }) => label),
          datasets: [
            {
              data: AGEING_SPANS.map(({ key }) => totals[key] / 100),
              backgroundColor: AGEING_SPANS.map(({ key }) => (key === 'notDue' ? colours.main : colours.late)),
              barThickness: 16,
            },
          ],
        }}
        options={{
          indexAxis: 'y',
          maintainAspectRatio: false,
          plugins: {
            tooltip: { callbacks: { label: (item) => money(minor(Math.round((item.parsed.x ?? 0) * 100))) } },
          },
          scales: {
            x: { beginAtZero: true, ticks: { color: colours.ink, maxTicksLimit: 6 }, grid: { color: colours.line } },
            y: { ticks: { color: colours.ink }, grid: { display: false } },
          },
        }}
      />
    </div>
  );
}
