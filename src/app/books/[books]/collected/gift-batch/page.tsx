import { listGiftBatches } from '@/books/by-hand/gift-batch';
import { formatDate } from '@/core/calendar';
import { formatAmount } from '@/core/money';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { keyLists } from '../key/key-lists';
import { COLLECTED_PAGES } from '../pages';
import { BatchForm } from './batch-form';
import { TableHeads } from '@/ui/parts/plain-table';

export default async function GiftBatchPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { lists, batches } = await openBooks(books).read(async (db) => ({
    lists: await keyLists(db),
    batches: await listGiftBatches(db),
  }));
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Key a gift batch</h1>
          <span className="soft">from an outside system: one sum for each fund, or gift by gift; gross always</span>
        </div>
        {lists.places.length === 0 ? (
          <Empty title="Gifts have nowhere to come in yet">
            <p>Open a channel under Set-up first.</p>
          </Empty>
        ) : (
          <BatchForm lists={lists} />
        )}
        {batches.length > 0 ? (
          <section className="mt-3">
            <h2>Keyed before</h2>
            <div className="surface">
              <table className="list" aria-label="Gift batches">
                <TableHeads
                  heads={[
                    'Reference',
                    'Paid out by',
                    'Days',
                    { name: 'Gifts', num: true },
                    { name: 'Gross', num: true },
                  ]}
                />
                <tbody>
                  {batches.map((batch) => (
                    <tr key={batch.id}>
                      <td>{batch.reference}</td>
                      <td>{batch.channel}</td>
                      <td>
                        {formatDate(batch.first)} to {formatDate(batch.last)}
                      </td>
                      <td className="num">{batch.gifts}</td>
                      <td className="num">{formatAmount(batch.gross, lists.currency)}</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          </section>
        ) : null}
      </main>
    </>
  );
}
