'use server';

import { turnIntoReceipts } from '@/books/matching/deposit-income';
import { change, preview } from '../../../../server/change';

export const turnIntoReceiptsNow = async (books: string, input: unknown) => change(books, turnIntoReceipts, input);
export const previewTurnIntoReceipts = async (books: string, input: unknown) => preview(books, turnIntoReceipts, input);
