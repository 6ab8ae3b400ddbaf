import { plural } from '@/core/words';
import { beganWords, outcomeWords } from '@/books/fetching/outcome-words';
import type { FetchRunRow } from '@/books/fetching/run-log';
import { Mark } from '@/ui/parts/mark';
import { momentWords } from './moment';

/** Every run with what came of it, newest first. */
export function RunLog({ runs, books, zone }: { runs: readonly FetchRunRow[]; books: string; zone: string }) {
  if (runs.length === 0) return null;
  return (
    <>
      <h2>Run log</h2>
      <div className="surface">
        <table className="list" aria-label="Run log">
          <thead>
            <tr>
              <th scope="col">Began</th>
              <th scope="col">From</th>
              <th scope="col">Because</th>
              <th scope="col" className="num">
                Took
              </th>
              <th scope="col" className="w-100">
                What came of it
              </th>
            </tr>
          </thead>
          <tbody>
            {runs.map((run) => {
              const seconds = (Date.parse(run.endedAt) - Date.parse(run.startedAt)) / 1000;
              const more = [
                run.retries > 0 ? `asked again ${plural(run.retries, 'time')}` : '',
                run.mailedTo === '' ? '' : `mailed to ${run.mailedTo}`,
              ].filter(Boolean);
              return (
                <tr key={run.id}>
                  <td className="text-nowrap">{momentWords(run.startedAt, zone)}</td>
                  <td className="text-nowrap">{run.name}</td>
                  <td className="text-nowrap">{beganWords(run)}</td>
                  <td className="num text-nowrap">{seconds.toFixed(1)} s</td>
                  <td className="wide">
                    {run.outcome === 'failed' ? <Mark kind="look">{outcomeWords(run)}</Mark> : outcomeWords(run)}
                    {run.refused > 0 && run.run !== null ? (
                      <>
                        {' '}
                        <a href={`/api/books/${books}/export/refused-${run.run}`} download>
                          refused, with reasons
                        </a>
                      </>
                    ) : null}
                    {more.length > 0 ? <div className="small soft">{more.join('; ')}</div> : null}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </table>
      </div>
    </>
  );
}
