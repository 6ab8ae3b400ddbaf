import { mapPage } from '@/books/map/map-page';
import { PageTabs } from '@/ui/frame/rail';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { SET_UP_PAGES } from '../pages';
import { MapView } from './map-view';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function AccountMapPage({ params, searchParams }: Props) {
  const { books } = await params;
  const search = await single(searchParams);
  const map = await openBooks(books).read((db) => mapPage(db));
  return (
    <>
      <PageTabs pages={SET_UP_PAGES} />
      <MapView map={map} rule={search.rule === 'new' ? 'new' : idParam(search.rule)} />
    </>
  );
}
