import { letterhead } from '@/books/billing/document';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { SET_UP_PAGES } from '../pages';
import { LetterheadForm } from './letterhead-form';

export default async function DocumentsSetUpPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const { head, row } = await openBooks(books).read(async (db) => ({
    head: await letterhead(db),
    row: await db.selectFrom('books').selectAll().executeTakeFirstOrThrow(),
  }));
  const values = {
    address: row.address,
    email: row.email,
    tax_number: row.tax_number,
    number_prefix: row.number_prefix,
    write_off_limit: row.write_off_limit,
    bic: head.bank?.bic ?? '',
  };
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Documents</h1>
          <span className="soft">what stands on invoices, credit notes and pay pages of {row.name}</span>
        </div>
        <LetterheadForm values={values} iban={head.bank?.iban ?? null} />
      </main>
    </>
  );
}
