import type { Metadata } from 'next';
import { letterhead } from '@/books/billing/document';
import { pageOfToken, placesTaken } from '@/books/public/pages';
import { ticketsOffered } from '@/books/public/register';
import { formatDate } from '@/core/calendar';
import { plural } from '@/core/words';
import { PublicFrame } from '@/ui/public/public-frame';
import { openBooks } from '../../../server/books';
import { single, type SearchParams } from '../../../server/params';
import { NoPublicPage } from '../../../server/no-public-page';
import { RegisterForm } from './register-form';

export const metadata: Metadata = { title: 'Register', robots: { index: false, follow: false } };

interface Props {
  readonly params: Promise<{ books: string; token: string }>;
  readonly searchParams: SearchParams;
}

/** The public page of an event: its tickets, the places left, and who comes. */
export default async function RegisterPage({ params, searchParams }: Props) {
  const { books, token } = await params;
  const { done } = await single(searchParams);
  const { page, from, left, tickets } = await openBooks(books).read(async (db) => {
    const found = await pageOfToken(db, token);
    const offer = found?.offer.kind === 'registration' ? found.offer : null;
    return {
      page: offer ? found : null,
      from: await letterhead(db),
      left: offer ? offer.places - (await placesTaken(db, found!.id)) : 0,
      tickets: offer ? await ticketsOffered(db, offer.tickets) : [],
    };
  });
  if (!page || page.offer.kind !== 'registration') {
    return <NoPublicPage title="There is no page at this address" look="Look whether the link is whole." />;
  }
  const { offer } = page;
  return (
    <PublicFrame name={from.name} about={[from.address.replace(/\n/g, ', '), from.email].filter(Boolean).join(' · ')}>
      <h1>{page.title}</h1>
      <p className="soft">
        {formatDate(offer.day)}, {left > 0 ? `${plural(left, 'place')} left` : 'no places left'}
      </p>
      {offer.about ? <p className="pre-line">{offer.about}</p> : null}
      {done ? (
        <section className="ask" aria-label="Registered">
          <div className="figure">You are registered</div>
          <p>Nothing is to be paid.</p>
        </section>
      ) : !page.open ? (
        <p className="notice waits">Registration is closed.</p>
      ) : left <= 0 ? (
        <p className="notice waits">It is full. Ask the organisers whether a place comes free.</p>
      ) : (
        <RegisterForm books={books} token={token} tickets={tickets} left={left} currency={from.currency} />
      )}
    </PublicFrame>
  );
}
