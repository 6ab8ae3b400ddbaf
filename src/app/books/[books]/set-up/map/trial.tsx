'use client';

import { plural } from '@/core/words';
import type { MapPage } from '@/books/map/map-page';
import type { Trial as TrialReport } from '@/books/map/try-rule';
import { formatDate, formatDay } from '@/core/calendar';
import { useMoney } from '@/ui/frame/books-context';
import { TrailAmount } from '@/ui/parts/trail-amount';
import { troubleWords, valueName } from './map-words';

const receipts = (n: number) => plural(n, 'receipt');

/** What a rule would have done to the last twelve months: from where to where, and what it collides with. */
export function Trial({ trial, map }: { trial: TrialReport; map: MapPage }) {
  const money = useMoney();
  const { applies, moves, moved, movedPosted, collisions, troubles } = trial;
  return (
    <section className="box" aria-label="Tried on the past">
      <h2>
        Tried on {receipts(trial.looked)} since {formatDate(trial.from)}
      </h2>
      <p className="mb-1">
        It fits {receipts(applies.count)}, {money(applies.amount)}.{' '}
        {moved === 0
          ? 'None would land elsewhere.'
          : `${receipts(moved)} would land elsewhere, ${movedPosted} of them posted: those stay until you post them again.`}
      </p>
      {troubles.map((trouble) => (
        <p key={`${trouble.kind} ${trouble.rule}`} className="waits mb-1">
          △{' '}
          {trouble.kind === 'shadowed' && trouble.by < 0
            ? 'takes all of a later rule, which then decides nothing'
            : `It ${troubleWords(trouble, map)}`}
        </p>
      ))}
      {moves.length + collisions.length > 0 ? (
        <table className="list">
          <tbody>
            {moves.map((move) => (
              <tr key={`${move.field} ${move.from} ${move.to}`}>
                <td className="wide">
                  {valueName(move.field, move.from, map)} → {valueName(move.field, move.to, map)}
                </td>
                <td className="num">{move.count}</td>
                <td className="num">{money(move.amount)}</td>
              </tr>
            ))}
            {collisions.map((row) => (
              <tr key={row.rule}>
                <td className="wide">
                  △{' '}
                  {row.takesOver
                    ? `takes over from “${row.name}”, which comes later`
                    : `“${row.name}” fits too and comes first`}
                </td>
                <td className="num">{row.count}</td>
                <td className="num">{money(row.amount)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
      {trial.receipts.length > 0 ? (
        <details className="mt-2">
          <summary>Which receipts</summary>
          <table className="list">
            <tbody>
              {trial.receipts.map((receipt) => (
                <tr key={receipt.id}>
                  <td>{formatDay(receipt.date)}</td>
                  <td className="wide">
                    {receipt.name}, {receipt.payer ?? 'no name'}
                    <div className="sub">{receipt.text}</div>
                  </td>
                  <td className="num">
                    <TrailAmount of={`receipt:${receipt.id}`} amount={receipt.gross} />
                  </td>
                  <td className="soft">{receipt.posted ? 'posted' : 'not posted'}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {moved > trial.receipts.length ? (
            <div className="small soft">and {moved - trial.receipts.length} more</div>
          ) : null}
        </details>
      ) : null}
    </section>
  );
}
