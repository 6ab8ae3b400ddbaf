'use server';

import { openPage, savePage } from '@/books/public/pages';
import { giveUpRegistration } from '@/books/public/register';
import { change } from '../../../../server/change';

export const savePageNow = async (books: string, input: unknown) => change(books, savePage, input);
export const openPageNow = async (books: string, input: unknown) => change(books, openPage, input);
export const giveUpNow = async (books: string, registration: number) =>
  change(books, giveUpRegistration, { registration });
