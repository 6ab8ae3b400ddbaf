import Link from 'next/link';
import { listPlans } from '@/books/billing/list-plans';
import { todayOf } from '@/books/setup/today';
import { formatDate } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { Mark } from '@/ui/parts/mark';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { OWED_PAGES } from '../pages';
import { RunPlans } from './run-plans';
import { TableHeads } from '@/ui/parts/plain-table';

const EVERY = { month: 'each month', quarter: 'each quarter', year: 'each year' } as const;

export default async function PlansPage({ params }: { params: Promise<{ books: string }> }) {
  const { books: id } = await params;
  const { plans, currency } = await openBooks(id).read(async (db) => {
    const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    return { currency: row.currency, plans: await listPlans(db, todayOf(row, new Date())) };
  });
  const due = plans.reduce((n, plan) => n + plan.due, 0);
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Plans</h1>
          <span className="soft">invoices that come again by themselves</span>
          <div className="acts">
            {due > 0 ? <RunPlans due={due} /> : null}
            <Link className="btn btn-primary" href={`/books/${id}/owed/plans/new`}>
              New plan
            </Link>
          </div>
        </div>
        {plans.length === 0 ? (
          <Empty title="No plans yet">
            <p>
              A plan bills a payer each month, quarter or year. Its coming twelve runs are shown before it is switched
              on.
            </p>
          </Empty>
        ) : (
          <div className="surface">
            <table className="list" aria-label="Plans">
              <TableHeads heads={['State', 'Plan', 'Payer', 'Bills', 'Next', { name: 'Gross', num: true }]} />
              <tbody>
                {plans.map((plan) => (
                  <tr key={plan.id}>
                    <td>
                      {!plan.active ? (
                        <Mark kind="new">off</Mark>
                      ) : plan.due > 0 ? (
                        <Mark kind="look">{`${plan.due} due`}</Mark>
                      ) : (
                        <Mark kind="posted">on</Mark>
                      )}
                    </td>
                    <td>
                      <Link href={`/books/${id}/owed/plans/${plan.id}`}>{plan.name}</Link>
                    </td>
                    <td>{plan.payer}</td>
                    <td>{EVERY[plan.every]}</td>
                    <td>{plan.next ? formatDate(plan.next.from) : 'nothing more'}</td>
                    <td className="num">{plan.next ? formatAmount(plan.next.gross, currency) : ''}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        )}
      </main>
    </>
  );
}
