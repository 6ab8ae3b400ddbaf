'use server';

import { register, type RegisterInput } from '@/books/public/register';
import type { Answer } from '../../../server/answer';
import { publicChange } from '../../../server/change';
import { cameFrom, tooOften } from '../../../server/rate-limit';

/** Registers, and gives the page to go to: the invoice's own, or this one where nothing is to pay. */
export async function registerNow(books: string, input: RegisterInput): Promise<Answer<{ pay: string }>> {
  if (await tooOften('begin', await cameFrom())) {
    return { ok: false, code: 'books-busy', what: 'This was asked too often.', next: 'Wait a minute and try again.' };
  }
  const answer = await publicChange(books, register, input);
  if (!answer.ok) return answer;
  const { payToken } = answer.value;
  const pay = payToken === null ? `/register/${books}/${input.token}?done=1` : `/pay/${books}/${payToken}`;
  return { ok: true, value: { pay }, change: null };
}
