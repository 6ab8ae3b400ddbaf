'use server';

import { mailer } from '@/adapters/mailer';
import { handOn } from '@/books/billing/hand-out';
import { keyGiftBatch } from '@/books/by-hand/gift-batch';
import { keyReceipt } from '@/books/by-hand/key-receipt';
import { thankForGifts } from '@/books/by-hand/thank';
import { openBooks } from '../../../../server/books';
import { change, preview } from '../../../../server/change';

export const keyNow = async (books: string, input: unknown) => change(books, keyReceipt, input);
export const previewKey = async (books: string, input: unknown) => preview(books, keyReceipt, input);
export const keyBatchNow = async (books: string, input: unknown) => change(books, keyGiftBatch, input);
export const previewBatch = async (books: string, input: unknown) => preview(books, keyGiftBatch, input);

/** Writes the letters and hands them on, where there is a mail server. */
export async function thankNow(books: string, receipts: readonly number[]) {
  const answer = await change(books, thankForGifts, { receipts });
  if (answer.ok) {
    for (const mail of answer.value.mails) await handOn(openBooks(books), mail, mailer(process.env.NEST_EGG_SMTP));
  }
  return answer;
}
