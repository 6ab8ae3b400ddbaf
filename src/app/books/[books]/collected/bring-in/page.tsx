import { listRuns } from '@/books/imports/runs';
import { PageTabs } from '@/ui/frame/rail';
import { Runs } from '@/ui/parts/runs';
import { openBooks } from '../../../../server/books';
import { takeBackImport } from '../../actions';
import { COLLECTED_PAGES } from '../pages';
import { BringInReceipts } from './bring-in-receipts';

export default async function BringInReceiptsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { runs, channels } = await openBooks(books).read(async (db) => ({
    runs: await listRuns(db, 'receipts'),
    channels: await db.selectFrom('channel').select(['id', 'name', 'currency']).orderBy('id').execute(),
  }));
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Bring in receipts</h1>
        </div>
        <BringInReceipts channels={channels} />
        <Runs runs={runs} takeBack={takeBackImport} />
      </main>
    </>
  );
}
