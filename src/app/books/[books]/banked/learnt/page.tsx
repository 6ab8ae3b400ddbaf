import { listFeeSteps } from '@/books/channels/fee-steps';
import { bankNames } from '@/books/matching/bank-names';
import { learntCuts } from '@/books/matching/day-cuts';
import { learntLags } from '@/books/matching/learnt';
import { feeChecks } from '@/books/proof/fee-check';
import { todayOf } from '@/books/setup/today';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { BANKED_PAGES } from '../pages';
import { LearntView } from './learnt-view';

export default async function LearntPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { lags, names, today, forgotten, cuts, fees, steps } = await openBooks(books).read(async (db) => ({
    lags: await learntLags(db),
    names: await bankNames(db),
    cuts: await learntCuts(db),
    fees: (await feeChecks(db)).filter(({ learnt }) => learnt !== null),
    steps: await listFeeSteps(db),
    today: todayOf(await db.selectFrom('books').selectAll().executeTakeFirstOrThrow(), new Date()),
    forgotten: await db
      .selectFrom('channel')
      .select(['id', 'name', 'learns_from as upTo'])
      .where('learns_from', 'is not', null)
      .orderBy('id')
      .execute(),
  }));
  return (
    <>
      <PageTabs pages={BANKED_PAGES} />
      <main>
        <LearntView {...{ lags, names, today, forgotten, cuts, fees, steps }} />
      </main>
    </>
  );
}
