import { railOf } from '@/books/today/rail';
import { endOfLastMonth } from '@/books/today/worklist';
import { formatDate } from '@/core/calendar';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { PROVED_PAGES } from '../pages';
import { CloseForm } from './close-form';

export default async function ClosePage({ params }: { params: Promise<{ books: string }> }) {
  const { books: id } = await params;
  const rail = await openBooks(id).read((db) => railOf(db, new Date()));
  const { closedThrough } = rail;
  return (
    <>
      <PageTabs pages={PROVED_PAGES} />
      <main>
        <div className="page-head">
          <h1>{closedThrough ? `Closed through ${formatDate(closedThrough)}` : 'Nothing is closed yet'}</h1>
        </div>
        <div className="box" style={{ maxWidth: 620 }}>
          <p>
            On and before the closing date nothing can be posted, reversed or confirmed. A reversal of something older
            is dated on the first open day.
          </p>
          <CloseForm closedThrough={closedThrough} suggested={endOfLastMonth(rail.today)} />
        </div>
      </main>
    </>
  );
}
