import { notFound } from 'next/navigation';
import { billLists } from '@/books/billing/bill-lists';
import { draftBill } from '@/books/billing/drafts';
import { payerDetails } from '@/books/payers/details';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../../server/books';
import { idParam } from '../../../../../server/params';
import { fieldsOf } from '../../bill/bill-fields';
import { DraftEditor } from '../../bill/draft-editor';
import { OWED_PAGES } from '../../pages';

export default async function DraftPage({ params }: { params: Promise<{ books: string; draft: string }> }) {
  const { books, draft } = await params;
  const id = idParam(draft) ?? notFound();
  const { bill, lists, to } = await openBooks(books).read(async (db) => {
    const found = (await draftBill(db, id)) ?? notFound();
    const payer = found.payer === null ? null : await payerDetails(db, found.payer);
    return { bill: found, lists: await billLists(db, found), to: payer };
  });
  const fields = fieldsOf(bill, to && { id: bill.payer!, name: to.name }, lists.currency);
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Draft of an invoice</h1>
        </div>
        <DraftEditor key={id} draft={id} fields={fields} lists={lists} />
      </main>
    </>
  );
}
