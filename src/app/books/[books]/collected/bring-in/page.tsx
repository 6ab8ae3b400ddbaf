import { listRuns } from '@/books/imports/runs';
import { PageTabs } from '@/ui/frame/rail';
import { BringIn } from '@/ui/parts/bring-in';
import { Runs } from '@/ui/parts/runs';
import { openBooks } from '../../../../server/books';
import { takeBackImport } from '../../actions';
import { COLLECTED_PAGES } from '../pages';

export default async function BringInReceiptsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const runs = await listRuns(openBooks(books).reader, 'receipts');
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Bring in the card desk’s export</h1>
        </div>
        <BringIn
          what="receipts"
          accept=".csv,text/csv"
          noun={{ one: 'movement', many: 'movements' }}
          takes="A CSV with one row per receipt, refund or payout: Id, Type, Time (UTC), Currency, Gross, Fee, Net, Payer, Document, Payout; also Email, Item, Tip, Note, Refund of."
        />
        <Runs runs={runs} takeBack={takeBackImport} />
      </main>
    </>
  );
}
