import Link from 'next/link';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { single, type SearchParams } from '../../../../server/params';
import { COLLECTED_PAGES } from '../pages';
import { KeyForm } from './key-form';
import { keyLists } from './key-lists';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function KeyPage({ params, searchParams }: Props) {
  const { books } = await params;
  const gift = (await single(searchParams)).as === 'gift';
  const lists = await openBooks(books).read((db) => keyLists(db));
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>{gift ? 'Key a gift' : 'Key a paid sale'}</h1>
          <div className="acts">
            <Link className="btn btn-plain" href={gift ? '?' : '?as=gift'}>
              {gift ? 'A paid sale instead' : 'A gift instead'}
            </Link>
          </div>
        </div>
        {lists.places.length === 0 ? (
          <Empty title="Money has nowhere to come in yet">
            <p>Open a channel first: one for cash and cheques, one for transfers, or a desk.</p>
            <Link className="btn btn-plain" href={`/books/${books}/set-up/channels/open`}>
              Open a channel
            </Link>
          </Empty>
        ) : (
          <KeyForm key={String(gift)} gift={gift} lists={lists} />
        )}
      </main>
    </>
  );
}
