'use server';

import { importList } from '@/books/setup/import-list';
import { keepItem, keepTaxCode, keepTerms, removeFromList, setLetterhead } from '@/books/setup/list-commands';
import { mergeItems, partItems } from '@/books/setup/merge-items';
import { change, preview } from '../../../../server/change';

export async function keepNow(books: string, list: 'items' | 'tax-codes' | 'terms', input: unknown) {
  switch (list) {
    case 'items':
      return change(books, keepItem, input);
    case 'tax-codes':
      return change(books, keepTaxCode, input);
    case 'terms':
      return change(books, keepTerms, input);
  }
}
export const removeNow = async (books: string, input: unknown) => change(books, removeFromList, input);
export const mergeItemsNow = async (books: string, input: unknown) => change(books, mergeItems, input);
export const partItemsNow = async (books: string, input: unknown) => change(books, partItems, input);
export const setLetterheadNow = async (books: string, input: unknown) => change(books, setLetterhead, input);
export const importListNow = async (books: string, input: unknown) => change(books, importList, input);
export const previewImportList = async (books: string, input: unknown) => preview(books, importList, input);
