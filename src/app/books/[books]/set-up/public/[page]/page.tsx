import { notFound } from 'next/navigation';
import { billLists } from '@/books/billing/bill-lists';
import { knownFunds } from '@/books/by-hand/gift-batch';
import { listPages } from '@/books/public/pages';
import { listRegistrations } from '@/books/public/register';
import { todayOf } from '@/books/setup/today';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../../server/books';
import { idParam } from '../../../../../server/params';
import { SET_UP_PAGES } from '../../pages';
import { PageForm } from './page-form';
import { newPage, pageFieldsOf } from './page-fields';
import { Registrations } from './registrations';

export default async function PublicPageSetUp({ params }: { params: Promise<{ books: string; page: string }> }) {
  const { books, page: text } = await params;
  const id = idParam(text);
  const kind = text === 'new-giving' ? 'giving' : text === 'new-registration' ? 'registration' : null;
  if (id === null && kind === null) notFound();
  const { page, lists, channels, funds, today, registered } = await openBooks(books).read(async (db) => {
    const found = id === null ? null : ((await listPages(db)).find((one) => one.id === id) ?? notFound());
    const connected = await db
      .selectFrom('channel')
      .innerJoin('connection', 'connection.channel_id', 'channel.id')
      .select(['channel.id', 'channel.name'])
      .orderBy('channel.name')
      .execute();
    return {
      page: found,
      lists: await billLists(db),
      channels: connected,
      funds: await knownFunds(db),
      today: todayOf(await db.selectFrom('books').selectAll().executeTakeFirstOrThrow(), new Date()),
      registered: found?.offer.kind === 'registration' ? await listRegistrations(db, found.id) : [],
    };
  });
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <main>
        <div className="page-head">
          <h1>{page ? page.title : kind === 'giving' ? 'New giving page' : 'New registration page'}</h1>
        </div>
        {channels.length === 0 ? (
          <p className="notice waits">
            No channel takes payments over the network yet. Connect one under Set-up, Fetching, then open a page.
          </p>
        ) : (
          <PageForm
            key={text}
            page={page ? { id: page.id, open: page.open } : null}
            fields={page ? pageFieldsOf(page, lists.currency) : newPage(kind!, channels[0]!.id, funds, today)}
            lists={lists}
            channels={channels}
          />
        )}
        {registered.length > 0 ? <Registrations rows={registered} /> : null}
      </main>
    </>
  );
}
