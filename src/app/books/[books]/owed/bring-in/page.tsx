import { listRuns } from '@/books/imports/runs';
import { PageTabs } from '@/ui/frame/rail';
import { BringIn } from '@/ui/parts/bring-in';
import { Runs } from '@/ui/parts/runs';
import { openBooks } from '../../../../server/books';
import { takeBackImport } from '../../actions';
import { OWED_PAGES } from '../pages';

export default async function BringInInvoicesPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const runs = await listRuns(openBooks(books).reader, 'invoices');
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Bring in invoices</h1>
        </div>
        <BringIn
          what="invoices"
          accept=".csv,text/csv"
          noun={{ one: 'invoice', many: 'invoices' }}
          takes="A CSV with one row per invoice line: Number, Payer, Issued, Due, Currency, Item, Net, Tax code; also Email, Description, Tax."
        />
        <Runs runs={runs} takeBack={takeBackImport} />
      </main>
    </>
  );
}
