import 'server-only';
import { revalidatePath } from 'next/cache';
import { runCommand, type Command } from '@/books/command';
import { answer, type Answer } from './answer';
import { ACTOR, openBooks } from './books';

/** Runs a command for a page's script and has all pages of the books drawn anew. */
export async function change<I, T>(books: string, command: Command<I, T>, input: unknown): Promise<Answer<T>> {
  const result = await runCommand(openBooks(books), command, input, { actor: ACTOR });
  if (result.ok) revalidatePath(`/books/${books}`, 'layout');
  return answer(result);
}

/** What a command would do, for a page to show. */
export async function preview<I, T>(books: string, command: Command<I, T>, input: unknown): Promise<Answer<T>> {
  return answer(await runCommand(openBooks(books), command, input, { actor: ACTOR, dryRun: true }));
}

/** Runs a command for somebody on a public page, who is nobody of these books. */
export async function publicChange<I, T>(books: string, command: Command<I, T>, input: unknown): Promise<Answer<T>> {
  const result = await runCommand(openBooks(books), command, input, { actor: { name: 'public page' } });
  if (result.ok && result.change) revalidatePath(`/books/${books}`, 'layout');
  return answer(result);
}
