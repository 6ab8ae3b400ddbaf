import Link from 'next/link';
import { notFound } from 'next/navigation';
import { payerDetails } from '@/books/payers/details';
import { creditsOf, openInvoicesOf } from '@/books/settling/open';
import { todayOf } from '@/books/setup/today';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../../../server/books';
import { idParam } from '../../../../../../server/params';
import { OWED_PAGES } from '../../../pages';
import { SettleSheet } from './settle-sheet';

export default async function SettlePage({ params }: { params: Promise<{ books: string; payer: string }> }) {
  const { books, payer } = await params;
  const id = idParam(payer) ?? notFound();
  const { name, credits, open, limit } = await openBooks(books).read(async (db) => {
    const row = await db.selectFrom('books').selectAll().executeTakeFirstOrThrow();
    const money = await creditsOf(db, id);
    // A discount goes by the day of the newest money there is.
    const paidOn = money.at(-1)?.date ?? todayOf(row, new Date());
    return {
      name: ((await payerDetails(db, id)) ?? notFound()).name,
      credits: money,
      open: await openInvoicesOf(db, id, paidOn),
      limit: row.write_off_limit,
    };
  });
  return (
    <>
      <PageTabs pages={OWED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Settle invoices of {name}</h1>
          <div className="acts">
            <Link className="btn btn-plain" href={`/books/${books}/owed/payers/${id}`}>
              To their account
            </Link>
          </div>
        </div>
        {credits.length === 0 ? (
          <Empty title="Nothing is kept for them">
            <p>
              Money that names an invoice settles it by itself. What is over, or names none, is kept for the payer and
              put to invoices here; a transfer is laid on its line under Banked.
            </p>
          </Empty>
        ) : (
          <SettleSheet credits={credits} invoices={open} limit={limit} payer={id} />
        )}
      </main>
    </>
  );
}
