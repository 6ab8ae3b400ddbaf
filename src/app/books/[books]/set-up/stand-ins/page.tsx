import { outbox } from '@/books/fetching/run-log';
import { todayOf } from '@/books/setup/today';
import { plural } from '@/core/words';
import { formatDate, plainDate } from '@/core/calendar';
import { formatAmount, type Minor } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { worlds } from '../../../../server/standins';
import { SET_UP_PAGES } from '../pages';
import { NextDay } from './next-day';
import { Outbox } from './outbox';
import { TableHeads } from '@/ui/parts/plain-table';

const WEATHER = { fine: '', shaky: 'busy at first', down: 'closed all day' } as const;
const DAYS_SHOWN = 10;

export default async function StandInsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { letters, settings, cursors } = await openBooks(books).read(async (db) => ({
    letters: await outbox(db),
    settings: await db.selectFrom('books').selectAll().executeTakeFirstOrThrow(),
    cursors: await db.selectFrom('connection').select(['address', 'cursor']).execute(),
  }));
  const world = worlds.find(books);
  const today = todayOf(settings, new Date());
  const read = (side: string) => cursors.find(({ address }) => address === `/standins/${books}/${side}`)?.cursor ?? 0;
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Stand-ins</h1>
          <span className="soft small">
            simulated services in place of real ones; reached over the network like those
          </span>
        </div>
        {world === null ? (
          <Empty title="These books have no simulated world">
            <p>Their channels are brought in by file, or connected to real services under Fetching.</p>
          </Empty>
        ) : (
          <div className="boxes">
            <section className="box" aria-label="The day">
              <h2>It is {formatDate(plainDate(world.day))} out there</h2>
              {settings.fixed_today === null ? (
                <p className="soft">These books go by the clock, so their day is not turned.</p>
              ) : (
                <>
                  <p className="soft">
                    In these books it is {formatDate(today)}. The next working day brings receipts and payouts to the
                    card desk and a statement to the bank, sometimes a refund, a chargeback, or a day on which the desk
                    does not answer. What is scheduled is then fetched.
                  </p>
                  <NextDay account={books} next={formatDate(plainDate(world.tomorrow))} />
                </>
              )}
            </section>
            <section className="box" aria-label="Card desk">
              <h2>{world.seed.desk.name}</h2>
              <dl className="facts">
                <dt>Holds</dt>
                <dd>{formatAmount(world.desk.reading(world.day).amount as Minor, world.seed.currency)}</dd>
                <dt>Not fetched</dt>
                <dd>{plural(world.desk.changesAfter(read('desk')).length, 'movement')}</dd>
                <dt>Today</dt>
                <dd>{WEATHER[world.weather] || 'answers well'}</dd>
                <dt>Address</dt>
                <dd>/standins/{books}/desk</dd>
                <dt>Key</dt>
                <dd>{world.seed.secret}</dd>
              </dl>
            </section>
            <section className="box" aria-label="Bank">
              <h2>Bank</h2>
              <dl className="facts">
                <dt>Not fetched</dt>
                <dd>{plural(world.bank.statementsAfter(read('bank')).length, 'statement')}</dd>
                <dt>Account</dt>
                <dd>{world.seed.bank.iban}</dd>
                <dt>Address</dt>
                <dd>/standins/{books}/bank</dd>
                <dt>Key</dt>
                <dd>{world.seed.secret}</dd>
              </dl>
            </section>
          </div>
        )}
        {world !== null && world.days.length > 0 ? (
          <>
            <h2>Days gone through</h2>
            <div className="surface">
              <table className="list" aria-label="Days gone through">
                <TableHeads
                  heads={[
                    'Day',
                    { name: 'Receipts', num: true },
                    { name: 'Refunds', num: true },
                    { name: 'Chargebacks', num: true },
                    { name: 'Payouts', num: true },
                    { name: 'Bank lines', num: true },
                    'Card desk',
                  ]}
                />
                <tbody>
                  {[...world.days]
                    .reverse()
                    .slice(0, DAYS_SHOWN)
                    .map((day) => (
                      <tr key={day.day}>
                        <td>{formatDate(plainDate(day.day))}</td>
                        <td className="num">{day.receipts}</td>
                        <td className="num">{day.refunds}</td>
                        <td className="num">{day.chargebacks}</td>
                        <td className="num">{day.payouts}</td>
                        <td className="num">{day.lines}</td>
                        <td>{WEATHER[day.weather]}</td>
                      </tr>
                    ))}
                </tbody>
              </table>
            </div>
          </>
        ) : null}
        <Outbox letters={letters} zone={settings.zone} />
      </main>
    </>
  );
}
