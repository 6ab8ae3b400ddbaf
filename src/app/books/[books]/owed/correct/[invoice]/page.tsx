import { notFound } from 'next/navigation';
import type { BillInput } from '@/books/billing/bill-input';
import { billLists } from '@/books/billing/bill-lists';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../../server/books';
import { idParam } from '../../../../../server/params';
import { fieldsOf } from '../../bill/bill-fields';
import { OWED_PAGES } from '../../pages';
import { CorrectEditor } from './correct-editor';

export default async function CorrectPage({ params }: { params: Promise<{ books: string; invoice: string }> }) {
  const { books, invoice } = await params;
  const id = idParam(invoice) ?? notFound();
  const { row, bill, lists } = await openBooks(books).read(async (db) => {
    const found = await db
      .selectFrom('invoice')
      .innerJoin('payer', 'payer.id', 'invoice.payer_id')
      .innerJoin('invoice_version', (join) =>
        join
          .onRef('invoice_version.invoice_id', '=', 'invoice.id')
          .onRef('invoice_version.version', '=', 'invoice.version'),
      )
      .select(['invoice.number', 'invoice.version', 'invoice.payer_id as payerId', 'payer.name as payer', 'content'])
      .where('invoice.id', '=', id)
      .executeTakeFirst();
    const content = JSON.parse((found ?? notFound()).content) as BillInput;
    return { row: found!, bill: content, lists: await billLists(db, content) };
  });
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Correct invoice {row.number}</h1>
          <span className="soft">
            version {row.version}; its number, payer and day stay, and the ledger gets the difference
          </span>
        </div>
        <CorrectEditor
          key={row.version}
          invoice={id}
          version={row.version}
          fields={fieldsOf(bill, { id: row.payerId, name: row.payer }, lists.currency)}
          lists={lists}
        />
      </main>
    </>
  );
}
