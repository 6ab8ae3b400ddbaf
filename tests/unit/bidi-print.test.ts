import parsePdf from 'pdf-parse/lib/pdf-parse.js';
import { printed, printPdf } from '@/adapters/pdf';

type Run = { readonly text: string; readonly font: string };
const runs = (text: string) => printed(text) as unknown as Run[];
const words = (text: string) =>
  runs(text)
    .map((run) => run.text)
    .join('');

test('names written from right to left stand in their own letters, their words from right to left', () => {
  expect(words('דנה כהן לוי')).toBe('לוי כהן דנה');
  expect(runs('ליلى')).toEqual([
    { text: 'לי', font: 'PlexHebrew' },
    { text: 'لى', font: 'PlexArabic' },
  ]);
});

test('in a line from left to right only the part that is written the other way turns', () => {
  expect(words('for דנה כהן and Tern Ltd')).toBe('for כהן דנה and Tern Ltd');
  expect(words('invoice 2026-0001, Ørsted')).toBe('invoice 2026-0001, Ørsted');
  expect(words('one\ntwo דנה כהן')).toBe('one\ntwo כהן דנה');
});

test('a letter that no font here holds is a question mark, and the rest stands', () => {
  expect(words('Tern 東 Ltd')).toBe('Tern ? Ltd');
});

test('the PDF holds the fonts of these letters, and its text can be taken out again', async () => {
  const file = await printPdf({ content: [{ text: printed('דנה לוי') }, { text: printed('ليلى') }, { text: 'end' }] });
  const { text } = (await parsePdf(Buffer.from(file))) as { text: string };
  for (const letter of 'דנהלוי') expect(text).toContain(letter);
  expect(text).toContain('end');
});
