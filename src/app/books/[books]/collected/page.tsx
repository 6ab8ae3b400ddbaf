import Link from 'next/link';
import { runCommand } from '@/books/command';
import { postedJournal } from '@/books/ledger/entry-view';
import { cursorParam } from '@/books/lists/page';
import { receiptDetail } from '@/books/receipts/detail';
import { receiptFilter } from '@/books/receipts/filter';
import { listReceipts } from '@/books/receipts/list';
import { postReceipts } from '@/books/receipts/post';
import { PageTabs } from '@/ui/frame/rail';
import { FilterChips, FilterText, ListFoot } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { Posted, PostAll, PostOne } from '@/ui/parts/posting';
import { answer } from '../../../server/answer';
import { ACTOR, openBooks } from '../../../server/books';
import { idParam, readFilter, single, type SearchParams } from '../../../server/params';
import { postReceiptNow, previewReverse, reverseNow } from '../actions';
import { COLLECTED_PAGES } from './pages';
import { ReceiptList } from './receipt-list';
import { ReceiptPanel } from './receipt-panel';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function ReceiptsPage({ params, searchParams }: Props) {
  const { books: id } = await params;
  const search = await single(searchParams);
  const filter = readFilter(receiptFilter, search, {});
  const books = openBooks(id);
  const selected = idParam(search.receipt);
  const { list, detail, journal } = await books.read(async (db) => {
    const open = selected === null ? null : await receiptDetail(db, selected);
    return {
      list: await listReceipts(db, filter, cursorParam.parse(search.after)),
      detail: open,
      journal: open?.journal ? await postedJournal(db, open.journal) : null,
    };
  });
  const preview =
    detail && detail.journal === null
      ? answer(await runCommand(books, postReceipts, { ids: [detail.id] }, { actor: ACTOR, dryRun: true }))
      : null;
  const filtered = Object.keys(filter).length > 0;
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Receipts</h1>
          <div className="acts">
            <PostAll what="receipts" noun={{ one: 'receipt', many: 'receipts' }} filter={filter} />
            <Link className="btn btn-plain" href={`/books/${id}/collected/bring-in`}>
              Bring in…
            </Link>
          </div>
        </div>
        <FilterChips
          param="state"
          choices={[
            { value: '', label: 'All' },
            { value: 'not-posted', label: 'Not posted' },
            { value: 'in-transit', label: 'In transit' },
            { value: 'banked', label: 'Banked' },
          ]}
        >
          <FilterText label="Payer, document, id or note" />
        </FilterChips>
        {list.totals.count === 0 ? (
          <Empty title={filtered ? 'No receipt is like this' : 'No receipts yet'}>
            <p>
              {filtered
                ? 'Choose another filter above.'
                : 'Bring in the card desk’s export; each receipt stands here with the entry it will write.'}
            </p>
            <Link
              className="btn btn-plain"
              href={filtered ? `/books/${id}/collected` : `/books/${id}/collected/bring-in`}
            >
              {filtered ? 'Show all' : 'Bring in receipts'}
            </Link>
          </Empty>
        ) : (
          <div className="split">
            <div className="surface">
              <ReceiptList rows={list.rows} totals={list.totals} />
              <ListFoot shown={list.rows.length} total={list.totals.count} next={list.next} list="receipts" />
            </div>
            <div className="sticky-panel">
              {detail ? (
                <ReceiptPanel key={detail.id} receipt={detail}>
                  {preview ? <PostOne key={detail.id} id={detail.id} preview={preview} post={postReceiptNow} /> : null}
                  {journal ? (
                    <Posted key={journal.id} journal={journal} previewReverse={previewReverse} reverse={reverseNow} />
                  ) : null}
                </ReceiptPanel>
              ) : (
                <Empty title="No receipt is open here">
                  <p>Click one, or press j, to see the entry it writes or wrote, and the balances it moves.</p>
                </Empty>
              )}
            </div>
          </div>
        )}
      </main>
    </>
  );
}
