import { listRuns } from '@/books/imports/runs';
import { PageTabs } from '@/ui/frame/rail';
import { BringIn } from '@/ui/parts/bring-in';
import { Runs } from '@/ui/parts/runs';
import { openBooks } from '../../../../server/books';
import { takeBackImport } from '../../actions';
import { BANKED_PAGES } from '../pages';

export default async function BringInStatementPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const runs = await listRuns(openBooks(books).reader, 'statement');
  return (
    <>
      <PageTabs pages={BANKED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Bring in a bank statement</h1>
        </div>
        <BringIn
          what="statement"
          accept=".xml,.csv,text/xml,application/xml,text/csv"
          noun={{ one: 'statement line', many: 'statement lines' }}
          takes="ISO 20022 camt.053, or a CSV with Account, Booked, Amount, Currency, Text, Balance; also Value, Counterparty, Reference. Files may overlap."
        />
        <Runs runs={runs} takeBack={takeBackImport} />
      </main>
    </>
  );
}
