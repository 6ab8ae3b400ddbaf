import { listDimensions } from '@/books/dimensions/dimensions';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { SET_UP_PAGES } from '../pages';
import { DimensionsView } from './dimensions-view';

export default async function DimensionsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { dimensions, accounts } = await openBooks(books).read(async (db) => ({
    dimensions: await listDimensions(db),
    accounts: await db
      .selectFrom('account')
      .select(['id', 'code', 'name'])
      .where('class', 'in', ['income', 'expense'])
      .orderBy('code')
      .execute(),
  }));
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <DimensionsView
        dimensions={dimensions}
        accounts={accounts.map((a) => ({ id: a.id, name: `${a.code} ${a.name}` }))}
      />
    </>
  );
}
