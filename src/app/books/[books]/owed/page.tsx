import Link from 'next/link';
import { invoiceDetail } from '@/books/invoices/detail';
import { invoiceFilter } from '@/books/invoices/filter';
import { listInvoices } from '@/books/invoices/list';
import { postInvoices } from '@/books/invoices/post';
import { runCommand } from '@/books/command';
import { postedJournal } from '@/books/ledger/entry-view';
import { cursorParam } from '@/books/lists/page';
import { todayOf } from '@/books/setup/today';
import { PageTabs } from '@/ui/frame/rail';
import { FilterChips, FilterText, ListFoot } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { Posted, PostAll, PostOne } from '@/ui/parts/posting';
import { answer } from '../../../server/answer';
import { ACTOR, openBooks } from '../../../server/books';
import { idParam, readFilter, single, type SearchParams } from '../../../server/params';
import { postInvoiceNow, previewReverse, reverseNow } from '../actions';
import { InvoiceList } from './invoice-list';
import { InvoicePanel } from './invoice-panel';
import { OWED_PAGES } from './pages';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function InvoicesPage({ params, searchParams }: Props) {
  const { books: id } = await params;
  const search = await single(searchParams);
  const filter = readFilter(invoiceFilter, search, {});
  const books = openBooks(id);
  const selected = idParam(search.invoice);
  const { list, detail, journal } = await books.read(async (db) => {
    const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const today = todayOf(row, new Date());
    const open = selected === null ? null : await invoiceDetail(db, selected, today);
    return {
      list: await listInvoices(db, filter, today, cursorParam.parse(search.after)),
      detail: open,
      journal: open?.journal ? await postedJournal(db, open.journal) : null,
    };
  });
  const preview =
    detail && detail.journal === null
      ? answer(await runCommand(books, postInvoices, { ids: [detail.id] }, { actor: ACTOR, dryRun: true }))
      : null;
  const filtered = Object.keys(filter).length > 0;
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Invoices</h1>
          <div className="acts">
            <PostAll what="invoices" noun={{ one: 'invoice', many: 'invoices' }} filter={filter} />
            <Link className="btn btn-plain" href={`/books/${id}/owed/bring-in`}>
              Bring in…
            </Link>
          </div>
        </div>
        <FilterChips
          param="state"
          choices={[
            { value: '', label: 'All' },
            { value: 'not-posted', label: 'Not posted' },
            { value: 'open', label: 'Open' },
            { value: 'overdue', label: 'Overdue' },
            { value: 'paid', label: 'Paid' },
          ]}
        >
          <FilterText label="Number or payer" />
        </FilterChips>
        {list.totals.count === 0 ? (
          <Empty title={filtered ? 'No invoice is like this' : 'No invoices yet'}>
            <p>
              {filtered
                ? 'Choose another filter above.'
                : 'Bring them in from a CSV; they stand here with what is open, and are posted from here.'}
            </p>
            <Link className="btn btn-plain" href={filtered ? `/books/${id}/owed` : `/books/${id}/owed/bring-in`}>
              {filtered ? 'Show all' : 'Bring in invoices'}
            </Link>
          </Empty>
        ) : (
          <div className="split">
            <div className="surface">
              <InvoiceList rows={list.rows} totals={list.totals} />
              <ListFoot shown={list.rows.length} total={list.totals.count} next={list.next} list="invoices" />
            </div>
            <div className="sticky-panel">
              {detail ? (
                <InvoicePanel key={detail.id} invoice={detail}>
                  {preview ? <PostOne key={detail.id} id={detail.id} preview={preview} post={postInvoiceNow} /> : null}
                  {journal ? (
                    <Posted key={journal.id} journal={journal} previewReverse={previewReverse} reverse={reverseNow} />
                  ) : null}
                </InvoicePanel>
              ) : (
                <Empty title="No invoice is open here">
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
