import { plural } from '@/core/words';
import Link from 'next/link';
import { expectedArrivals } from '@/books/payouts/list';
import { railOf } from '@/books/today/rail';
import { worklist, type WorkItem } from '@/books/today/worklist';
import { formatWeekday } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { Empty } from '@/ui/parts/notice';
import { ExpectedChart } from '@/ui/charts/expected-chart';
import { openBooks } from '../../server/books';

const SHAPES: Readonly<Record<WorkItem['risk'], string>> = { trouble: '△', waiting: '◐', new: '○' };
const WORDS: Readonly<Record<WorkItem['risk'], string>> = {
  trouble: 'needs a look',
  waiting: 'waits for you',
  new: 'to do',
};

export default async function TodayPage({ params }: { params: Promise<{ books: string }> }) {
  const { books: id } = await params;
  const { rail, work, expected } = await openBooks(id).read(async (db) => {
    const figures = await railOf(db, new Date());
    return { rail: figures, work: await worklist(db, figures), expected: await expectedArrivals(db) };
  });
  const weekday = formatWeekday(rail.today).split(' ')[0];
  return (
    <main>
      <div className="two">
        <div>
          <div className="page-head">
            <h1>{work.length === 0 ? 'Nothing waits' : `${plural(work.length, 'thing')}, worst first`}</h1>
            <span className="soft small">
              {weekday}, {rail.name}
            </span>
          </div>
          {work.length === 0 ? (
            <Empty title="All is posted, explained and closed">
              <p>New files are brought in under Owed, Collected and Banked.</p>
              <Link className="btn btn-plain" href={`/books/${id}/collected/bring-in`}>
                Bring in receipts
              </Link>
            </Empty>
          ) : (
            <div className="surface">
              <table className="list work-list" aria-label="Worklist">
                <thead className="visually-hidden">
                  <tr>
                    <th scope="col">Risk</th>
                    <th scope="col">What</th>
                    <th scope="col">Amount</th>
                    <th scope="col">Age</th>
                    <th scope="col">What to do</th>
                  </tr>
                </thead>
                <tbody>
                  {work.map((item) => (
                    <tr key={item.title}>
                      <td style={{ width: 34 }}>
                        <span className={`shape ${item.risk}`} title={WORDS[item.risk]}>
                          {SHAPES[item.risk]}
                          <span className="visually-hidden">{WORDS[item.risk]}</span>
                        </span>
                      </td>
                      <td>
                        <b className="fw-semibold">{item.title}</b>
                        <div className="sub">{item.detail}</div>
                      </td>
                      <td className="num">
                        {item.amount === null ? null : (
                          <Link href={`/books/${id}/${item.href}`}>
                            {item.currency && item.currency !== rail.currency
                              ? `${formatAmount(item.amount, item.currency)} ${item.currency}`
                              : formatAmount(item.amount, rail.currency)}
                          </Link>
                        )}
                      </td>
                      <td className="soft text-nowrap">
                        {item.age === null ? '' : item.age === 0 ? 'today' : plural(item.age, 'day')}
                      </td>
                      <td className="text-nowrap" style={{ width: 130 }}>
                        <Link
                          className={`btn ${item.action.startsWith('Confirm') ? 'btn-primary' : 'btn-plain'}`}
                          href={`/books/${id}/${item.href}`}
                          aria-label={`${item.action}: ${item.title}`}
                        >
                          {item.action}
                        </Link>
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          )}
        </div>
        <aside>
          <div className="box">
            <h2>Expected at the bank</h2>
            <ExpectedChart days={expected} />
          </div>
        </aside>
      </div>
    </main>
  );
}
