'use server';

import { coveredAmount, pledgeGift, type GiveInput } from '@/books/public/give';
import { pageOfToken } from '@/books/public/pages';
import type { Minor } from '@/core/money';
import type { Answer } from '../../../server/answer';
import { openBooks } from '../../../server/books';
import { publicChange } from '../../../server/change';
import { origin } from '../../../server/fetching';
import { begin } from '../../../server/paying';
import { cameFrom, tooOften } from '../../../server/rate-limit';

/** Takes a gift's wish down and begins its payment. */
export async function giveNow(books: string, input: GiveInput): Promise<Answer<{ pay: string }>> {
  if (await tooOften('begin', await cameFrom())) {
    return { ok: false, code: 'books-busy', what: 'This was asked too often.', next: 'Wait a minute and try again.' };
  }
  const wanted = await publicChange(books, pledgeGift, input);
  if (!wanted.ok) return wanted;
  return begin(books, wanted.value, `${origin()}/give/${books}/${input.token}?back=${wanted.value.id}`);
}

/** What covering the fee comes to, for the page to show before anything is sent off. */
export async function coveredNow(books: string, token: string, gift: number): Promise<number | null> {
  if (!Number.isSafeInteger(gift) || gift < 100 || gift > 100_000_000) return null;
  return openBooks(books).read(async (db) => {
    const page = await pageOfToken(db, token);
    return page ? coveredAmount(db, page.channel, gift as Minor) : null;
  });
}
