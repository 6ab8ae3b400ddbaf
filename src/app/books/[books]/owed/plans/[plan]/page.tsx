import { notFound } from 'next/navigation';
import { billLists } from '@/books/billing/bill-lists';
import { comingRuns } from '@/books/billing/plan-runs';
import { findPlan } from '@/books/billing/plans';
import { todayOf } from '@/books/setup/today';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../../server/books';
import { idParam } from '../../../../../server/params';
import { emptyBill, fieldsOf } from '../../bill/bill-fields';
import { OWED_PAGES } from '../../pages';
import { PlanEditor } from './plan-editor';
import { newPlanFields, planFieldsOf } from './plan-fields';

export default async function PlanPage({ params }: { params: Promise<{ books: string; plan: string }> }) {
  const { books, plan: text } = await params;
  const id = text === 'new' ? null : (idParam(text) ?? notFound());
  const { plan, payer, lists, today, runs } = await openBooks(books).read(async (db) => {
    const found = id === null ? null : ((await findPlan(db, id)) ?? notFound());
    const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    return {
      plan: found,
      payer: found
        ? await db.selectFrom('payer').select(['id', 'name']).where('id', '=', found.payer).executeTakeFirst()
        : null,
      lists: await billLists(db, found?.bill),
      today: todayOf(row, new Date()),
      runs: found ? await comingRuns(db, found, found.billsFrom) : [],
    };
  });
  const bill = plan ? fieldsOf(plan.bill, payer ?? null, lists.currency) : emptyBill(today);
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>{plan ? plan.name : 'New plan'}</h1>
          {plan ? <span className="soft">{plan.active ? 'on: it bills by itself' : 'off'}</span> : null}
        </div>
        <PlanEditor
          key={id}
          plan={id}
          active={plan?.active ?? false}
          bill={bill}
          fields={plan ? planFieldsOf(plan, lists.currency) : newPlanFields(today)}
          lists={lists}
          runs={runs}
        />
      </main>
    </>
  );
}
