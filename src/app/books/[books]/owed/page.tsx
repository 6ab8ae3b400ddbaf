import Link from 'next/link';
import { listDrafts } from '@/books/billing/drafts';
import { invoiceDetail } from '@/books/invoices/detail';
import { invoiceFilter } from '@/books/invoices/filter';
import { listInvoices } from '@/books/invoices/list';
import { postInvoices } from '@/books/invoices/post';
import { runCommand } from '@/books/command';
import { postedJournal } from '@/books/ledger/entry-view';
import { cursorParam } from '@/books/lists/page';
import { todayOf } from '@/books/setup/today';
import { DocumentsPage } from '@/ui/parts/documents-page';
import { Posted, PostOne } from '@/ui/parts/posting';
import { answer } from '../../../server/answer';
import { ACTOR, openBooks } from '../../../server/books';
import { idParam, readFilter, single, type SearchParams } from '../../../server/params';
import { postInvoiceNow, previewReverse, reverseNow } from '../actions';
import { DraftList } from './draft-list';
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
  const { list, detail, journal, drafts } = await books.read(async (db) => {
    const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const today = todayOf(row, new Date());
    const open = selected === null ? null : await invoiceDetail(db, selected, today);
    return {
      drafts: await listDrafts(db),
      list: await listInvoices(db, filter, today, cursorParam.parse(search.after)),
      detail: open,
      journal: open?.journal ? await postedJournal(db, open.journal) : null,
    };
  });
  const preview =
    detail && detail.journal === null
      ? answer(await runCommand(books, postInvoices, { ids: [detail.id] }, { actor: ACTOR, dryRun: true }))
      : null;
  return (
    <DocumentsPage
      base={`/books/${id}`}
      station="owed"
      pages={OWED_PAGES}
      title="Invoices"
      what="invoices"
      noun={{ one: 'invoice', many: 'invoices' }}
      filter={filter}
      states={[
        { value: 'not-posted', label: 'Not posted' },
        { value: 'open', label: 'Open' },
        { value: 'overdue', label: 'Overdue' },
        { value: 'paid', label: 'Paid' },
        { value: 'void', label: 'Void' },
      ]}
      acts={
        <Link className="btn btn-primary" href={`/books/${id}/owed/new`}>
          New invoice
        </Link>
      }
      above={drafts.length > 0 ? <DraftList drafts={drafts} /> : null}
      searchFor="Number or payer"
      bringIn="Write one, or bring them in from a CSV; they stand here with what is open."
      page={{ shown: list.rows.length, total: list.totals.count, next: list.next }}
      list={<InvoiceList rows={list.rows} totals={list.totals} />}
      panel={
        detail && (
          <InvoicePanel key={detail.id} invoice={detail}>
            {preview ? (
              <PostOne
                key={detail.id}
                id={detail.id}
                of={`invoice:${detail.id}`}
                preview={preview}
                post={postInvoiceNow}
              />
            ) : null}
            {journal ? (
              <Posted
                key={journal.id}
                of={`invoice:${detail.id}`}
                journal={journal}
                previewReverse={previewReverse}
                reverse={detail.own ? null : reverseNow}
              />
            ) : null}
          </InvoicePanel>
        )
      }
    />
  );
}
