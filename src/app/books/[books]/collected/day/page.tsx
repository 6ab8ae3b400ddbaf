import { plainDateInput } from '@/books/command/plain-date-input';
import { dayDocument, lastDay } from '@/books/receipts/day-document';
import { PageTabs } from '@/ui/frame/rail';
import { Empty } from '@/ui/parts/notice';
import { openBooks } from '../../../../server/books';
import { idParam, single, type SearchParams } from '../../../../server/params';
import { COLLECTED_PAGES } from '../pages';
import { DaySheet } from './day-sheet';
import { WhichDay } from './which-day';

interface Props {
  readonly params: Promise<{ books: string }>;
  readonly searchParams: SearchParams;
}

export default async function DayPage({ params, searchParams }: Props) {
  const { books } = await params;
  const search = await single(searchParams);
  const { channels, channel, day } = await openBooks(books).read(async (db) => {
    const all = await db.selectFrom('channel').select(['id', 'name', 'kind']).orderBy('id').execute();
    const wanted = idParam(search.channel);
    const one = all.find(({ id }) => id === wanted) ?? all.find(({ kind }) => kind === 'till') ?? all[0];
    const date = plainDateInput.safeParse(search.date);
    const on = one && (date.success ? date.data : await lastDay(db, one.id));
    return { channels: all, channel: one, day: one && on ? await dayDocument(db, one.id, on) : null };
  });
  return (
    <>
      <PageTabs pages={COLLECTED_PAGES} />
      <main>
        {channel === undefined || day === null ? (
          <Empty title="No day has receipts yet">
            <p>Bring in a channel’s export; each of its days then stands here as its till would print it.</p>
          </Empty>
        ) : (
          <>
            <WhichDay key={`${channel.id} ${day.date}`} channels={channels} channel={channel.id} day={day} />
            {day.sites.length === 0 ? (
              <Empty title="Nothing was taken in on this day">
                <p>The days before and after it that have receipts are a step away.</p>
              </Empty>
            ) : null}
            {day.sites.map((site) => (
              <DaySheet key={site.site} site={site} currency={day.currency} />
            ))}
          </>
        )}
      </main>
    </>
  );
}
