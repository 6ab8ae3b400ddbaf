import { runCommand } from '@/books/command';
import { postedJournal } from '@/books/ledger/entry-view';
import { cursorParam } from '@/books/lists/page';
import { receiptDetail } from '@/books/receipts/detail';
import { receiptFilter } from '@/books/receipts/filter';
import { listReceipts } from '@/books/receipts/list';
import { postReceipts } from '@/books/receipts/post';
import { DocumentsPage } from '@/ui/parts/documents-page';
import { PostAll } from '@/ui/parts/post-all';
import { Posted, PostOne } from '@/ui/parts/posting';
import { answer } from '../../../server/answer';
import { ACTOR, openBooks } from '../../../server/books';
import { idParam, readFilter, single, type SearchParams } from '../../../server/params';
import { postReceiptNow, previewReverse, reverseNow } from '../actions';
import { AsideAll } from './aside-all';
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
  const { list, detail, journal, channels } = await books.read(async (db) => {
    const open = selected === null ? null : await receiptDetail(db, selected);
    return {
      channels: await db.selectFrom('channel').select(['id', 'name']).orderBy('id').execute(),
      list: await listReceipts(db, filter, cursorParam.parse(search.after)),
      detail: open,
      journal: open?.journal ? await postedJournal(db, open.journal) : null,
    };
  });
  const preview =
    detail && detail.journal === null && detail.aside === null
      ? answer(await runCommand(books, postReceipts, { ids: [detail.id] }, { actor: ACTOR, dryRun: true }))
      : null;
  return (
    <DocumentsPage
      base={`/books/${id}`}
      station="collected"
      pages={COLLECTED_PAGES}
      title="Receipts"
      what="receipts"
      noun={{ one: 'receipt', many: 'receipts' }}
      filter={filter}
      states={[
        { value: 'not-posted', label: 'Not posted' },
        { value: 'in-transit', label: 'In transit' },
        { value: 'banked', label: 'Banked' },
        { value: 'changed', label: 'Changed since' },
        { value: 'aside', label: 'Set aside' },
      ]}
      channels={channels}
      searchFor="Payer, document, id or note"
      bringIn="Bring in a channel’s export; each receipt stands here with the entry it will write."
      page={{ shown: list.rows.length, total: list.totals.count, next: list.next }}
      acts={
        <>
          <PostAll act="reverse" what="receipts" noun={{ one: 'receipt', many: 'receipts' }} filter={filter} />
          <AsideAll filter={filter} />
        </>
      }
      list={<ReceiptList rows={list.rows} totals={list.totals} />}
      panel={
        detail && (
          <ReceiptPanel key={detail.id} receipt={detail}>
            {preview ? (
              <PostOne
                key={detail.id}
                id={detail.id}
                of={`receipt:${detail.id}`}
                preview={preview}
                post={postReceiptNow}
              />
            ) : null}
            {journal ? (
              <Posted
                key={journal.id}
                of={`receipt:${detail.id}`}
                journal={journal}
                previewReverse={previewReverse}
                reverse={reverseNow}
              />
            ) : null}
          </ReceiptPanel>
        )
      }
    />
  );
}
