import { listGifts } from '@/books/by-hand/thank';
import { PageTabs } from '@/ui/frame/rail';
import { FilterChips } from '@/ui/parts/list-frame';
import { Empty } from '@/ui/parts/notice';
import { plural } from '@/core/words';
import { openBooks } from '../../../../server/books';
import { single, type SearchParams } from '../../../../server/params';
import { COLLECTED_PAGES } from '../pages';
import { GiftList } from './gift-list';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function GiftsPage({ params, searchParams }: Props) {
  const { books } = await params;
  const waiting = (await single(searchParams)).show === 'waiting';
  const gifts = await openBooks(books).read((db) => listGifts(db, waiting));
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        <div className="page-head">
          <h1>Gifts</h1>
          <span className="soft">{plural(gifts.count, 'gift')}</span>
        </div>
        <FilterChips
          param="show"
          choices={[
            { value: '', label: 'All' },
            { value: 'waiting', label: 'Not thanked yet' },
          ]}
        />
        {gifts.rows.length === 0 ? (
          <Empty title={waiting ? 'Every donor with an email was thanked' : 'No gifts yet'}>
            <p>Receipts that name a fund are gifts: keyed here, or brought in from a giving page.</p>
          </Empty>
        ) : (
          <GiftList gifts={gifts.rows} total={gifts.count} />
        )}
      </main>
    </>
  );
}
