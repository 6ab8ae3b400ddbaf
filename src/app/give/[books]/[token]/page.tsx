import type { Metadata } from 'next';
import { letterhead } from '@/books/billing/document';
import { pledgeState } from '@/books/public/pledge-state';
import { pageOfToken } from '@/books/public/pages';
import { formatAmount } from '@/core/money';
import { PublicFrame } from '@/ui/public/public-frame';
import { WaitFor } from '@/ui/public/wait-for';
import { openBooks } from '../../../server/books';
import { idParam, single, type SearchParams } from '../../../server/params';
import { NoPublicPage } from '../../../server/no-public-page';
import { GiveForm } from './give-form';

export const metadata: Metadata = { title: 'Give', robots: { index: false, follow: false } };

interface Props {
  readonly params: Promise<{ books: string; token: string }>;
  readonly searchParams: SearchParams;
}

/** The public page of a fund or several: how much, how often, with or without a name. */
export default async function GivePage({ params, searchParams }: Props) {
  const { books, token } = await params;
  const back = idParam((await single(searchParams)).back);
  const { page, from, state } = await openBooks(books).read(async (db) => {
    const found = await pageOfToken(db, token);
    return {
      page: found,
      from: await letterhead(db),
      state: found && back !== null ? await pledgeState(db, found.id, back) : null,
    };
  });
  if (!page || page.offer.kind !== 'giving') {
    return <NoPublicPage title="There is no page at this address" look="Look whether the link is whole." />;
  }
  const { offer } = page;
  return (
    <PublicFrame name={from.name} about={[from.address.replace(/\n/g, ', '), from.email].filter(Boolean).join(' · ')}>
      <h1>{page.title}</h1>
      {offer.about ? <p className="pre-line">{offer.about}</p> : null}
      {state?.came ? (
        <section className="ask" aria-label="Thank you">
          <div className="figure">Thank you</div>
          <p>
            {formatAmount(state.came.amount, from.currency)} {from.currency} came, receipt {state.came.name}.
          </p>
          <a href={`/give/${books}/${token}`}>Give again</a>
        </section>
      ) : state ? (
        <WaitFor>Your gift is being confirmed.</WaitFor>
      ) : page.open ? (
        <GiveForm books={books} token={token} offer={offer} currency={from.currency} />
      ) : (
        <p className="notice waits">This page is closed.</p>
      )}
    </PublicFrame>
  );
}
