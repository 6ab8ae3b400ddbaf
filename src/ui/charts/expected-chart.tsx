'use client';

import { plural } from '@/core/words';
import { Bar } from 'react-chartjs-2';
import type { ExpectedDay } from '@/books/payouts/list';
import { formatWeekday } from '@/core/calendar';
import { minor, sum } from '@/core/money';
import { useBooks, useMoney } from '../frame/books-context';
import { useChartColours } from './setup';

/** Announced payouts by the day they should be at the bank; what is late comes first. Its table is below it. */
export function ExpectedChart({ days }: { days: readonly ExpectedDay[] }) {
  const { today } = useBooks();
  const money = useMoney();
  const colours = useChartColours();
  if (days.length === 0) return <p className="soft mb-0">No payout is on its way.</p>;
  const late = days.filter((day) => day.day < today);
  const bars = [
    ...(late.length > 0
      ? [{ label: 'late', net: sum(late.map((day) => day.net)), count: late.reduce((n, d) => n + d.count, 0) }]
      : []),
    ...days
      .filter((day) => day.day >= today)
      .map((day) => ({ label: formatWeekday(day.day), net: day.net, count: day.count })),
  ];
  return (
    <>
      {colours ? (
        <div style={{ height: 40 + bars.length * 26 }} aria-hidden="true">
          <Bar
            data={{
              labels: bars.map((bar) => bar.label),
              datasets: [
                {
                  data: bars.map((bar) => bar.net / 100),
                  backgroundColor: bars.map((bar) => (bar.label === 'late' ? colours.late : colours.main)),
                  barThickness: 12,
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
                x: {
                  beginAtZero: true,
                  ticks: { color: colours.ink, maxTicksLimit: 5 },
                  grid: { color: colours.line },
                },
                y: { ticks: { color: colours.ink }, grid: { display: false } },
              },
            }}
          />
        </div>
      ) : null}
      <table className="list mt-2" aria-label="Expected at the bank by day">
        <tbody>
          {bars.map((bar) => (
            <tr key={bar.label}>
              <td className={bar.label === 'late' ? 'due' : ''}>{bar.label}</td>
              <td className="soft">{plural(bar.count, 'payout')}</td>
              <td className="num">{money(bar.net)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
