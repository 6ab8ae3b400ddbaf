import { plural } from '@/core/words';
import Link from 'next/link';
import { fetchingPage } from '@/books/fetching/list';
import { formatAmount } from '@/core/money';
import { formatDate } from '@/core/calendar';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { worlds } from '../../../../server/standins';
import { SET_UP_PAGES } from '../pages';
import { ConnectForm } from './connect-form';
import { FetchButton } from './fetch-button';
import { momentWords } from './moment';
import { RunLog } from './run-log';
import { TimingForm } from './timing-form';
import { TableHeads } from '@/ui/parts/plain-table';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function FetchingPage({ params, searchParams }: Props) {
  const { books } = await params;
  const base = `/books/${books}/set-up/fetching`;
  const open = idParam((await single(searchParams)).connection);
  const page = await openBooks(books).read((db) => fetchingPage(db, new Date()));
  const { connections, zone } = page;
  const chosen = connections.find((one) => one.id === open) ?? null;
  const free = page.channels.length + page.banks.length > 0;
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Fetching</h1>
          <span className="soft small">
            channels and banks that are asked for what is new, and what came of each time
          </span>
        </div>
        <div className="split">
          <div>
            {connections.length === 0 ? (
              <Empty title="Nothing is fetched yet">
                <p>Files can be brought in by hand at any time. Connect a channel beside this to have it asked.</p>
              </Empty>
            ) : (
              <div className="surface">
                <table className="list" aria-label="Connections">
                  <TableHeads
                    heads={[
                      'From',
                      'When',
                      'Next',
                      { name: 'It says it holds', num: true },
                      { name: 'What to do', hidden: true },
                    ]}
                  />
                  <tbody>
                    {connections.map((one) => (
                      <tr key={one.id} className={one.id === open ? 'current' : undefined}>
                        <td>
                          <Link href={`${base}?connection=${one.id}`}>{one.name}</Link>
                          {one.eventsOpen > 0 ? (
                            <div className="small">
                              △ {plural(one.eventsOpen, 'event says', 'events say')} that something changed
                            </div>
                          ) : null}
                        </td>
                        <td className="wide">{one.scheduleWords}</td>
                        <td className="text-nowrap">{one.next === null ? '' : momentWords(one.next, zone)}</td>
                        <td className="num">
                          {one.reading === null ? '' : formatAmount(one.reading.amount, one.reading.currency)}
                          {one.reading === null ? null : (
                            <div className="small soft">{formatDate(one.reading.day)}</div>
                          )}
                        </td>
                        <td className="text-end">
                          <FetchButton connection={one.id} name={one.name} />
                        </td>
                      </tr>
                    ))}
                  </tbody>
                </table>
              </div>
            )}
            <RunLog runs={page.runs} books={books} zone={zone} />
          </div>
          <div className="sticky-panel">
            {chosen ? (
              <TimingForm
                key={chosen.id}
                connection={chosen.id}
                name={chosen.name}
                address={chosen.address}
                channel={chosen.channel !== null}
                start={chosen.schedule}
                mailTo={chosen.mailTo}
              />
            ) : free ? (
              <ConnectForm channels={page.channels} banks={page.banks} worlds={worlds.names()} />
            ) : (
              <Empty title="All are connected">
                <p>Choose one to say when it is fetched, and to whom its log is mailed.</p>
              </Empty>
            )}
          </div>
        </div>
      </main>
    </>
  );
}
