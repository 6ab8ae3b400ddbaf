import Link from 'next/link';
import { listPages } from '@/books/public/pages';
import { plural } from '@/core/words';
import { PageTabs } from '@/ui/frame/rail';
import { Mark } from '@/ui/parts/mark';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { SET_UP_PAGES } from '../pages';
import { TableHeads } from '@/ui/parts/plain-table';

export default async function PublicPagesPage({ params }: { params: Promise<{ books: string }> }) {
  const { books } = await params;
  const pages = await openBooks(books).read((db) => listPages(db));
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>Public pages</h1>
          <span className="soft">where anybody gives, or registers for an event</span>
          <div className="acts">
            <Link className="btn btn-plain" href={`/books/${books}/set-up/public/new-giving`}>
              New giving page
            </Link>
            <Link className="btn btn-plain" href={`/books/${books}/set-up/public/new-registration`}>
              New registration page
            </Link>
          </div>
        </div>
        {pages.length === 0 ? (
          <Empty title="No public pages yet">
            <p>
              A giving page takes gifts for funds, once or each month; a registration page sells tickets of an event.
            </p>
          </Empty>
        ) : (
          <div className="surface">
            <table className="list" aria-label="Public pages">
              <TableHeads heads={['State', 'Title', 'Kind', 'Paid through', 'So far', 'Address']} />
              <tbody>
                {pages.map((page) => {
                  const address = `/${page.offer.kind === 'giving' ? 'give' : 'register'}/${books}/${page.token}`;
                  return (
                    <tr key={page.id}>
                      <td>{page.open ? <Mark kind="posted">open</Mark> : <Mark kind="aside">closed</Mark>}</td>
                      <td>
                        <Link href={`/books/${books}/set-up/public/${page.id}`}>{page.title}</Link>
                      </td>
                      <td>{page.offer.kind}</td>
                      <td>{page.channelName}</td>
                      <td>
                        {page.offer.kind === 'giving'
                          ? plural(page.taken, 'gift') + ' begun'
                          : `${page.taken} of ${plural(page.offer.places, 'place')}`}
                      </td>
                      <td>
                        <a href={address} target="_blank" rel="noreferrer">
                          {address.slice(0, 30)}…
                        </a>
                      </td>
                    </tr>
                  );
                })}
              </tbody>
            </table>
          </div>
        )}
      </main>
    </>
  );
}
