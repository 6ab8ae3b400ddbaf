import { channelsPage } from '@/books/channels/list';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../../server/params';
import { SET_UP_PAGES } from '../../pages';
import { OpenChannel } from './open-channel';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function OpenChannelPage({ params, searchParams }: Props) {
  const { books } = await params;
  const wanted = idParam((await single(searchParams)).draft);
  const page = await openBooks(books).read((db) => channelsPage(db));
  const draft = page.drafts.find((row) => row.id === wanted) ?? null;
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <OpenChannel key={draft?.id ?? 'new'} page={page} draft={draft} />
    </>
  );
}
