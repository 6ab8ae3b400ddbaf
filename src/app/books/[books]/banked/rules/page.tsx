import { bookingLists } from '@/books/matching/booking-lists';
import { listStatementRules } from '@/books/matching/statement-rules';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { single, type SearchParams } from '../../../../server/params';
import { BANKED_PAGES } from '../pages';
import { StatementRulesView } from './rules-view';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function StatementRulesPage({ params, searchParams }: Props) {
  const { books } = await params;
  const { text } = await single(searchParams);
  const { rules, lists, banks } = await openBooks(books).read(async (db) => ({
    rules: await listStatementRules(db),
    lists: await bookingLists(db),
    banks: await db
      .selectFrom('bank_account')
      .innerJoin('account', 'account.id', 'bank_account.account_id')
      .select(['account.id', 'account.code', 'account.name'])
      .orderBy('account.code')
      .execute(),
  }));
  return (
    <>
      <PageTabs pages={BANKED_PAGES} />
      <main>
        <StatementRulesView rules={rules} lists={lists} banks={banks} text={text ?? ''} />
      </main>
    </>
  );
}
