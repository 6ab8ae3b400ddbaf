import { channelsForDeposits, depositIncome } from '@/books/matching/deposit-income';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { BANKED_PAGES } from '../pages';
import { DepositIncomeView } from './income-view';

export default async function DepositIncomePage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { groups, channels } = await openBooks(books).read(async (db) => ({
    groups: await depositIncome(db),
    channels: await channelsForDeposits(db),
  }));
  return (
    <>
      <PageTabs pages={BANKED_PAGES} />
      <main>
        <DepositIncomeView groups={groups} channels={channels} />
      </main>
    </>
  );
}
