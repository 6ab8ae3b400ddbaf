import { notFound } from 'next/navigation';
import { channelAsEdit } from '@/books/channels/edit-channel';
import { channelsPage } from '@/books/channels/list';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../../server/books';
import { idParam } from '../../../../../server/params';
import { SET_UP_PAGES } from '../../pages';
import { EditChannel } from './edit-channel';

export default async function EditChannelPage({ params }: { params: Promise<{ books: string; channel: string }> }) {
  const { books, channel } = await params;
  const id = idParam(channel);
  const { page, settings } = await openBooks(books).read(async (db) => ({
    page: await channelsPage(db),
    settings: id === null ? null : await channelAsEdit(db, id),
  }));
  const row = page.channels.find((one) => one.id === id);
  if (!settings || !row) notFound();
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <EditChannel
        key={row.id}
        channel={row.id}
        page={page}
        start={{ ...settings, kind: row.kind, currency: row.currency }}
      />
    </>
  );
}
