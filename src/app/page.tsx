import Link from 'next/link';
import { redirect } from 'next/navigation';
import { Empty } from '@/ui/parts/notice';
import { listBooks, openBooks } from './server/books';

/** The books on this server; one set of books opens at once. */
export default async function BooksPage({ searchParams }: { searchParams: Promise<{ choose?: string }> }) {
  const ids = listBooks();
  if (ids.length === 1 && !(await searchParams).choose) redirect(`/books/${ids[0]}`);
  const books = await Promise.all(
    ids.map(async (id) => ({
      id,
      ...(await openBooks(id).reader.selectFrom('books').select(['name', 'currency']).executeTakeFirst()),
    })),
  );
  return (
    <main className="container py-5">
      <h1>Books</h1>
      {books.length === 0 ? (
        <Empty title="There are no books here yet">
          <p>Stop the server and run “npm run demo”: it makes the books of Kittiwake Sails & Rigging and opens them.</p>
        </Empty>
      ) : (
        <ul className="list-unstyled">
          {books.map((b) => (
            <li key={b.id} className="box">
              <Link href={`/books/${b.id}`}>{b.name ?? b.id}</Link> <span className="soft">{b.currency}</span>
            </li>
          ))}
        </ul>
      )}
    </main>
  );
}
