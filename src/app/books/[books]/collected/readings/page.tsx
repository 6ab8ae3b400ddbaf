import { keptReadings } from '@/books/receipts/readings';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { COLLECTED_PAGES } from '../pages';
import { Readings } from './readings';

export default async function ReadingsPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const readings = await openBooks(books).read(keptReadings);
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Readings</h1>
          <span className="soft small">how exports are read, kept by their header; a new header is asked about</span>
        </div>
        {readings.length === 0 ? (
          <Empty title="No reading is kept yet">
            <p>Once an export of another program was read and brought in, how it was read stands here.</p>
          </Empty>
        ) : (
          <Readings readings={readings} />
        )}
      </main>
    </>
  );
}
