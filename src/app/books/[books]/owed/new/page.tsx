import { billLists } from '@/books/billing/bill-lists';
import { payerDetails } from '@/books/payers/details';
import { todayOf } from '@/books/setup/today';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { emptyBill } from '../bill/bill-fields';
import { DraftEditor } from '../bill/draft-editor';
import { OWED_PAGES } from '../pages';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function NewInvoicePage({ params, searchParams }: Props) {
  const { books } = await params;
  const payer = idParam((await single(searchParams)).payer);
  const { lists, today, to } = await openBooks(books).read(async (db) => ({
    lists: await billLists(db),
    today: todayOf(await db.selectFrom('books').selectAll().executeTakeFirstOrThrow(), new Date()),
    to: payer === null ? null : await payerDetails(db, payer),
  }));
  const fields = emptyBill(today);
  const chosen = to && payer !== null ? { payer: { id: payer, name: to.name }, terms: String(to.terms ?? '') } : {};
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>New invoice</h1>
        </div>
        <DraftEditor draft={null} fields={{ ...fields, ...chosen }} lists={lists} />
      </main>
    </>
  );
}
